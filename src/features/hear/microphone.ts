import { writeWav } from '@/core/formats/wav';

export interface Microphone {
  readonly stop: () => void;
}

/**
 * Opens the microphone as it is, without the browser's improvements, and hands on what it hears in blocks; throws
 * what the browser says.
 */
export async function openMicrophone(
  context: AudioContext,
  onBlock: (block: Float32Array) => void,
): Promise<Microphone> {
  const stream = await navigator.mediaDevices.getUserMedia({
    audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false, channelCount: 1 },
  });
  const close = (): void => {
    for (const track of stream.getTracks()) track.stop();
  };
  try {
    await context.resume();
    await context.audioWorklet.addModule('/worklets/capture.js');
    const node = new AudioWorkletNode(context, 'capture', { numberOfOutputs: 0 });
    node.port.onmessage = (event: MessageEvent<Float32Array>) => onBlock(event.data);
    context.createMediaStreamSource(stream).connect(node);
    return {
      stop: () => {
        close();
        node.disconnect();
        node.port.close();
      },
    };
  } catch (reason) {
    close();
    throw reason;
  }
}

/** Blocks of sound as one. */
export function joined(blocks: readonly Float32Array[]): Float32Array {
  const samples = new Float32Array(blocks.reduce((n, b) => n + b.length, 0));
  let at = 0;
  for (const block of blocks) {
    samples.set(block, at);
    at += block.length;
  }
  return samples;
}

/** Takes what the microphone hears until it is stopped; gives it as a WAV file. */
export class Recording {
  private readonly blocks: Float32Array[] = [];
  private readonly context = new AudioContext();
  private microphone: Microphone | null = null;

  /** Begins; throws what the browser says. */
  async start(): Promise<void> {
    this.microphone = await openMicrophone(this.context, (block) => this.blocks.push(block));
  }

  async stop(name: string): Promise<File> {
    this.microphone?.stop();
    await this.context.close();
    return new File(
      [writeWav({ rate: this.context.sampleRate, channels: [joined(this.blocks)] }) as Uint8Array<ArrayBuffer>],
      `${name}.wav`,
      { type: 'audio/wav' },
    );
  }
}
