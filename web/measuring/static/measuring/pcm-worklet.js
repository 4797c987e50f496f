// Turns the microphone's samples into signed 16-bit pieces of 100 ms and posts them.

class PcmWorklet extends AudioWorkletProcessor {
  constructor() {
    super();
    this.piece = new Int16Array(Math.round(sampleRate / 10));
    this.filled = 0;
    this.open = true;
    this.port.onmessage = () => {
      this.port.postMessage(this.piece.slice(0, this.filled));
      this.port.postMessage(null);
      this.open = false;
    };
  }

  process([channels]) {
    if (!this.open) return false;
    for (const value of channels[0] ?? []) {
      this.piece[this.filled++] = Math.max(-32768, Math.min(32767, Math.round(value * 32768)));
      if (this.filled === this.piece.length) {
        this.port.postMessage(this.piece.slice());
        this.filled = 0;
      }
    }
    return true;
  }
}

registerProcessor("pcm", PcmWorklet);
