// The live wire: JSON text for control, binary pieces with a running number for sound.

export function openAttemptSocket(url, start, { onMessage, onEnd, Socket = WebSocket }) {
  const socket = new Socket(url);
  socket.binaryType = "arraybuffer";
  const waiting = [];
  let started = false;
  let number = 0;

  const send = (piece) => {
    const frame = new ArrayBuffer(4 + piece.byteLength);
    new DataView(frame).setUint32(0, number++, true);
    new Int16Array(frame, 4).set(piece);
    socket.send(frame);
  };
  socket.addEventListener("open", () => socket.send(JSON.stringify({ type: "start", ...start })));
  socket.addEventListener("message", (event) => {
    const message = JSON.parse(event.data);
    if (message.type === "started") {
      started = true;
      waiting.splice(0).forEach(send);
    }
    onMessage(message);
  });
  socket.addEventListener("close", (event) => onEnd(event.code, event.reason));
  return {
    piece(piece) {
      if (socket.readyState > WebSocket.OPEN) return;
      if (started) send(piece);
      else waiting.push(piece);
    },
    stop(samples) {
      if (!started || socket.readyState !== WebSocket.OPEN) return false;
      socket.send(JSON.stringify({ type: "stop", samples }));
      return true;
    },
    close: () => socket.close(),
  };
}
