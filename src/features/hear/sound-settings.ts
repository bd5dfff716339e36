import type { Backing } from '@/core/synth';

export interface Strip {
  /** 0 to 100. */
  readonly level: number;
  readonly muted: boolean;
  readonly solo: boolean;
}

export interface Ladder {
  readonly on: boolean;
  /** Percent. */
  readonly from: number;
  readonly to: number;
  readonly step: number;
  readonly times: number;
}

/** What sounds beside a riff and how, as the instructor has set it. */
export interface SoundSettings {
  /** The riff that sounds of another part, by part. */
  readonly beside: Readonly<Record<string, string>>;
  readonly backing: readonly Backing[];
  readonly strips: Readonly<Record<string, Strip>>;
  readonly click: boolean;
  readonly double: boolean;
  /** Bars counted in. */
  readonly countIn: 0 | 1 | 2;
  /** A reading heard in turn with what is written. */
  readonly turn: string | null;
  readonly ladder: Ladder;
}
