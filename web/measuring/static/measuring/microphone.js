// Opens an input and records it in pieces. The simulated voice goes the very same way.

const WANTED = { autoGainControl: false, noiseSuppression: false, echoCancellation: false, channelCount: 1 };
const KEPT_SETTINGS = ["sampleRate", "autoGainControl", "noiseSuppression", "echoCancellation", "channelCount"];

async function microphoneStream() {
  const stream = await navigator.mediaDevices.getUserMedia({ audio: WANTED });
  const track = stream.getAudioTracks()[0];
  const given = track.getSettings();
  const device = { label: track.label };
  for (const key of KEPT_SETTINGS) if (key in given) device[key] = given[key];
  return { stream, device, play: () => {}, close: () => track.stop() };
}

async function simulatedStream(context, url) {
  const answer = await fetch(url);
  if (!answer.ok) throw new Error(`simulated voice: ${answer.status}`);
  const source = new AudioBufferSourceNode(context, {
    buffer: await context.decodeAudioData(await answer.arrayBuffer()),
  });
  const outlet = new MediaStreamAudioDestinationNode(context, { channelCount: 1 });
  source.connect(outlet);
  const device = { label: "simulated voice", sampleRate: context.sampleRate, autoGainControl: false };
  return { stream: outlet.stream, device, play: () => source.start(), close: () => source.disconnect() };
}

export async function openInput(kind, { worklet, voiceUrl }) {
  const context = new AudioContext({ sampleRate: 16000 });
  let input;
  try {
    await Promise.all([context.resume(), context.audioWorklet.addModule(worklet)]);
    input = kind === "simulated voice" ? await simulatedStream(context, voiceUrl) : await microphoneStream();
  } catch (error) {
    await context.close();
    throw error;
  }
  return {
    device: input.device,
    rate: context.sampleRate,
    record(onPiece) {
      const source = new MediaStreamAudioSourceNode(context, { mediaStream: input.stream });
      const node = new AudioWorkletNode(context, "pcm", { numberOfOutputs: 0 });
      const ended = new Promise((resolve) => {
        node.port.onmessage = ({ data }) => (data === null ? resolve() : data.length && onPiece(data));
      });
      source.connect(node);
      input.play();
      return async () => {
        node.port.postMessage("stop");
        await ended;
        input.close();
        await context.close();
      };
    },
    async close() {
      input.close();
      await context.close();
    },
  };
}
