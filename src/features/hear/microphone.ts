import { writeWav } from '@/core/formats/wav';

/** Takes what the microphone hears until it is stopped; gives it as a WAV file. */
export class Recording {
  private readonly blocks: Float32Array[] = [];
  private context: AudioContext | null = null;
  private stream: MediaStream | null = null;

  /** Begins; throws what the browser says. */
  async start(): Promise<void> {
    this.stream = await navigator.mediaDevices.getUserMedia({ audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false, channelCount: 1 } });
    this.context = new AudioContext();
    await this.context.resume();
    await this.context.audioWorklet.addModule('/worklets/capture.js');
    const node = new AudioWorkletNode(this.context, 'capture', { numberOfOutputs: 0 });
    node.port.onmessage = (e: MessageEvent<Float32Array>) => this.blocks.push(e.data);
    this.context.createMediaStreamSource(this.stream).connect(node);
  }

  get seconds(): number {
    return this.blocks.reduce((n, b) => n + b.length, 0) / (this.context?.sampleRate ?? 44_100);
  }

  async stop(name: string): Promise<File> {
    const rate = this.context?.sampleRate ?? 44_100;
    for (const track of this.stream?.getTracks() ?? []) track.stop();
    await this.context?.close();
    const samples = new Float32Array(this.blocks.reduce((n, b) => n + b.length, 0));
    let at = 0;
    for (const block of this.blocks) {
      samples.set(block, at);
      at += block.length;
    }
    return new File([writeWav({ rate, channels: [samples] }) as Uint8Array<ArrayBuffer>], `${name}.wav`, { type: 'audio/wav' });
  }
}
