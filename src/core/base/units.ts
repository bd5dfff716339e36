/**
 * The field's quantities as named types.
 *
 * A flavoured number: plain numbers may be passed in, but a value already known to be in one
 * unit is refused where another unit is asked for (cents for semitones, a fret for a string).
 */
type Flavour<T, Name extends string> = T & { readonly __unit?: Name };

/** A branded value: only what was made one may be passed where one is asked for. */
export type Brand<T, Name extends string> = T & { readonly __brand: Name };

/** Ids of what the server keeps. A plain string may be passed in; one id is refused where another is asked for. */
export type PieceId = Flavour<string, 'PieceId'>;
export type ClipId = Flavour<string, 'ClipId'>;
export type InstrumentId = Flavour<string, 'InstrumentId'>;

/** MIDI note number, 60 = C4 = middle C, 69 = A4. Sounding pitch unless said otherwise. */
export type Midi = Flavour<number, 'Midi'>;
/** A distance in equal-tempered semitones. */
export type Semitones = Flavour<number, 'Semitones'>;
/** Hundredths of a semitone. */
export type Cents = Flavour<number, 'Cents'>;
/** Frequency in hertz. */
export type Hertz = Flavour<number, 'Hertz'>;
/** Length in millimetres. */
export type Millimetres = Flavour<number, 'Millimetres'>;
/** Force in newtons. */
export type Newtons = Flavour<number, 'Newtons'>;
/** Duration in seconds. */
export type Seconds = Flavour<number, 'Seconds'>;
/** Quarter notes a minute. */
export type Bpm = Flavour<number, 'Bpm'>;
/** String number as printed tab counts: 1 is the thinnest. */
export type StringNumber = Flavour<number, 'StringNumber'>;
/** Fret counted from the capo (or from the nut where there is none); 0 is the open string. */
export type Fret = Flavour<number, 'Fret'>;
/** Fret counted from the nut whatever the capo. */
export type NutFret = Flavour<number, 'NutFret'>;
/** 0 open, 1 index, 2 middle, 3 ring, 4 little finger, 5 the thumb over the neck. */
export type Finger = 0 | 1 | 2 | 3 | 4 | 5;

/** A value nobody may change in place, all the way down. */
export type DeepReadonly<T> = T extends string | number | boolean | null | undefined
  ? T
  : { readonly [K in keyof T]: DeepReadonly<T[K]> };
