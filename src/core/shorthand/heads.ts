import type { SyntaxNode } from '@lezer/common';
import { gripTones } from '../harmony';
import { fretShown, nutOf, openPitch, pitchAt, shownFret, stringCount, stringNumbers } from '../instrument';
import { noteName, parsePitch } from '../pitch';
import { DEFAULT_SCHOOLS, type Schools } from '../schools';
import { phrase } from './articulations';
import { harmonicCalled } from './marks';
import { fretWords, onTheNeck, readingsOf, stringsNamed, stringWords } from './names';
import type { CallContext, CalledNote, Ear, Interpretation } from './types';

/** What a head is read with beside its words. */
interface HeadEar extends Omit<Ear, 'fret' | 'name' | 'span'> {
  /** The pitch of the note called before. */
  readonly before: () => number | null;
}

/** Reads which notes are called: frets, pitches, chords and grips. Remembers the string said last. */
export class Heads {
  private string: number | null;
  private readonly schools: Schools;

  constructor(
    private readonly context: CallContext,
    private readonly ear: HeadEar,
  ) {
    this.string = context.string;
    this.schools = context.schools ?? DEFAULT_SCHOOLS;
  }

  private slice(node: SyntaxNode): string {
    return this.ear.slice(node);
  }

  private fault(node: SyntaxNode, message: string): null {
    this.ear.fault(node, message);
    return null;
  }

  private understood(node: SyntaxNode, label: string, readings: readonly Interpretation[] = []): void {
    this.ear.understood(node, label, readings);
  }

  stringCalled(node: SyntaxNode): number | null {
    const { setup } = this.context;
    const number = node.getChild('Number');
    if (number) {
      const n = Number(this.slice(number));
      const exists = n >= 1 && n <= stringCount(setup) && !setup.absent.includes(n);
      if (!exists) {
        return this.fault(
          node,
          setup.absent.includes(n)
            ? `String ${n} is taken off in this set-up.`
            : `There is no string ${n}: strings are 1 (thinnest) to ${stringCount(setup)}.`,
        );
      }
      this.string = n;
      this.understood(node, stringWords(setup, n));
      return n;
    }
    const letters = node.name === 'StringLetter' ? node : node.getChild('StringLetter');
    const letter = letters?.getChild('Letter');
    if (!letters || !letter) return null;
    const name = this.slice(letter);
    const side = letters.getChild('Thick') ? 'thick' : letters.getChild('Thin') ? 'thin' : null;
    let choices = stringsNamed(name, setup, this.string);
    if (side)
      choices = [...choices].sort((a, b) => (side === 'thick' ? b.string - a.string : a.string - b.string)).slice(0, 1);
    const [taken] = choices;
    if (!taken) return this.fault(node, `No string is called ${name} in this set-up, neither by name nor by sound.`);
    this.string = taken.string;
    this.understood(
      node,
      stringWords(setup, taken.string),
      choices.length > 1
        ? choices.map(({ string }) => ({ label: stringWords(setup, string), text: `on ${string}` }))
        : [],
    );
    return taken.string;
  }

  /** The notes of a member: its head, another place that would do, its octave. */
  head(member: SyntaxNode): CalledNote[] | null {
    const notes = this.plainHead(member);
    if (!notes) return null;
    const other = member.getChild('OrPlace');
    const octave = member.getChild('Octave');
    const placed = other ? this.otherPlace(other, notes) : notes;
    return placed && octave ? this.withOctave(octave, placed) : placed;
  }

  /** "A12 or D7": the same pitch at another place. */
  private otherPlace(node: SyntaxNode, notes: readonly CalledNote[]): CalledNote[] | null {
    const { setup } = this.context;
    const [note] = notes;
    if (!note?.place || notes.length > 1)
      return this.fault(node, 'Another place belongs to one note whose place was called: A12 or D7.');
    const kept = this.string;
    const called = node.getChild('StringCall') ?? node.getChild('StringLetter');
    if (called && this.stringCalled(called) === null) return null;
    const name = node.getChild('NameCall');
    const number = node.getChild('Fret');
    const found = name
      ? readingsOf(this.slice(name), setup, kept, this.schools).find((one) => one.kind === 'place')
      : { string: this.string ?? 0, fret: number ? this.fretTyped(this.string ?? 1, Number(this.slice(number))) : 0 };
    this.string = kept;
    if (!found) return this.fault(node, 'Expected a string and a fret after "or": A12 or D7.');
    const place = { string: found.string, fret: found.fret };
    const pitch = pitchAt(setup, place);
    if (!pitch.ok) return this.fault(node, pitch.error.words);
    if (pitch.value !== note.pitch)
      return this.fault(
        node,
        `That is ${this.name(pitch.value)}, and the note is ${this.name(note.pitch)}: another place sounds the same.`,
      );
    if (place.string === note.place.string) return this.fault(node, 'That is the same place.');
    const why = phrase(node, this.ear);
    this.understood(node, `or on ${stringWords(setup, place.string, this.schools.notes)}, fret ${place.fret}`);
    return [{ ...note, otherPlace: { ...place, reason: why === '' ? null : why } }];
  }

  /** A note with its octave, two strings on where it was placed. */
  private withOctave(node: SyntaxNode, notes: readonly CalledNote[]): CalledNote[] | null {
    const { setup } = this.context;
    const [note] = notes;
    if (!note || notes.length > 1) return this.fault(node, 'An octave is added to one note.');
    const pitch = note.pitch + 12;
    this.understood(node, `with its octave ${this.name(pitch)}`);
    if (!note.place)
      return onTheNeck(setup, pitch) ? [note, { ...note, pitch }] : this.fault(node, 'Its octave is beyond this neck.');
    for (const string of [note.place.string - 2, note.place.string - 3, note.place.string - 1]) {
      if (string < 1 || setup.absent.includes(string)) continue;
      const fret = pitch - openPitch(setup, string);
      if (fret >= 0 && pitchAt(setup, { string, fret }).ok)
        return [note, { ...note, pitch, place: { ...note.place, string, fret } }];
    }
    return this.fault(node, 'Its octave has no place on the strings beside it: call it with +.');
  }

  private plainHead(member: SyntaxNode): CalledNote[] | null {
    const node = ['Open', 'Fret', 'DeadCall', 'HarmonicCall', 'NameCall', 'PitchCall', 'ChordCall', 'GripCall']
      .map((name) => member.getChild(name))
      .find((node) => node !== null);
    if (!node) return null;
    switch (node.name) {
      case 'Open':
        return this.fretted(node, 0);
      case 'Fret':
        return this.fretted(node, Number(this.slice(node)), true);
      case 'DeadCall': {
        const number = node.getChild('Number');
        const before = this.ear.before();
        // "note G1, dead, dead": no string was said, so it is the one the note before will lie on.
        if (this.string === null && number === null && before !== null) {
          this.understood(node, 'a dead note, on the string of the note before');
          return [{ pitch: before, place: null, finger: null, dur: null, technique: { dead: true as const } }];
        }
        const notes = this.fretted(node, number ? Number(this.slice(number)) : 0, number !== null);
        return notes && notes.map((note) => ({ ...note, technique: { dead: true as const } }));
      }
      case 'HarmonicCall':
        return this.harmonic(node);
      case 'NameCall':
        return this.named(node);
      case 'PitchCall': {
        const name = this.slice(node).replace(/^note\s*/, '');
        const pitch = parsePitch(name);
        return pitch === null
          ? this.fault(node, `"${name}" is no pitch: say a letter and an octave, such as note D3.`)
          : this.pitched(node, pitch);
      }
      case 'ChordCall':
        return this.chord(node, this.slice(node).replace(/^chord\s*/, ''));
      default:
        return this.grip(node);
    }
  }

  private fretted(node: SyntaxNode, typed: number, counted = false): CalledNote[] | null {
    if (this.string === null) return this.fault(node, 'On which string? Say it first, for example "on 5 3" or "A 3".');
    return this.placed(node, this.string, counted ? this.fretTyped(this.string, typed) : typed);
  }

  private harmonic(node: SyntaxNode): CalledNote[] | null {
    if (this.string === null) return this.fault(node, 'On which string? Say it first, for example "on 4 harmonic 12".');
    const number = node.getChild('Number') ?? node.getChild('Decimal');
    const found = harmonicCalled(this.context.setup, this.string, number ? Number(this.slice(number)) : NaN);
    if (!found.ok) return this.fault(node, found.error.words);
    this.understood(
      node,
      `${stringWords(this.context.setup, this.string, this.schools.notes)}, natural harmonic at ${found.value.node}: ${this.name(found.value.note.pitch)}`,
    );
    return [found.value.note];
  }

  private placed(
    node: SyntaxNode,
    string: number,
    fret: number,
    readings: readonly Interpretation[] = [],
  ): CalledNote[] | null {
    const { setup } = this.context;
    if (fret < 0) return this.fault(node, this.behind(string, fret));
    const pitch = pitchAt(setup, { string, fret });
    if (!pitch.ok) return this.fault(node, pitch.error.words);
    this.string = string;
    this.understood(
      node,
      `${stringWords(setup, string, this.schools.notes)}, ${fretWords(fret, shownFret(setup, string, fret, this.schools.frets))}: ${this.name(pitch.value)}`,
      readings,
    );
    return [{ pitch: pitch.value, place: { string, fret, sure: true }, finger: null, dur: null }];
  }

  /** A typed fret as counted from the string's own zero; "0" is the open string by either school. */
  fretTyped(string: number, typed: number): number {
    return typed === 0 ? 0 : fretShown(this.context.setup, string, typed, this.schools.frets);
  }

  private behind(string: number, fret: number): string {
    const nut = nutOf(this.context.setup, string);
    return `Fret ${fret + nut} of string ${string} lies behind the capo at fret ${nut}; frets count from the nut here.`;
  }

  name(pitch: number): string {
    return noteName(pitch, { naming: this.schools.notes });
  }

  private pitched(node: SyntaxNode, pitch: number, readings: readonly Interpretation[] = []): CalledNote[] | null {
    const name = noteName(pitch, { octave: true, naming: this.schools.notes });
    if (!onTheNeck(this.context.setup, pitch)) return this.fault(node, `${name} does not exist on this set-up.`);
    this.understood(node, `the pitch ${name}, for the program to place`, readings);
    return [{ pitch, place: null, finger: null, dur: null }];
  }

  private chord(node: SyntaxNode, symbol: string, readings: readonly Interpretation[] = []): CalledNote[] | null {
    const tones = gripTones(symbol, this.context.setup);
    if (!tones.ok) return this.fault(node, tones.error.words);
    const { pitches, sounds, left } = tones.value;
    const shape = sounds === symbol ? `the chord ${symbol}` : `the shape ${symbol}, sounding ${sounds}`;
    this.understood(
      node,
      `${shape}: ${pitches.map((midi) => this.name(midi)).join(' ')}${left.length > 0 ? `, without its ${left.join(' and ')}` : ''}`,
      readings,
    );
    return pitches.map((pitch) => ({ pitch, place: null, finger: null, dur: null }));
  }

  private named(node: SyntaxNode): CalledNote[] | null {
    const name = this.slice(node);
    const readings = readingsOf(name, this.context.setup, this.string, this.schools);
    const [taken] = readings;
    if (!taken) {
      return this.fault(
        node,
        `"${name}" makes sense neither as string and fret, nor as a pitch of this neck, nor as a chord.`,
      );
    }
    const others = readings.length > 1 ? readings.map(({ label, text }) => ({ label, text })) : [];
    if (taken.kind === 'place') return this.placed(node, taken.string, taken.fret, others);
    return taken.kind === 'pitch' ? this.pitched(node, taken.pitch, others) : this.chord(node, taken.symbol, others);
  }

  private grip(node: SyntaxNode): CalledNote[] | null {
    const { setup } = this.context;
    const called = [
      ...node.getChildren('GripFret'),
      ...node.getChildren('GripSkip'),
      ...node.getChildren('GripOpen'),
    ].sort((a, b) => a.from - b.from);
    const on = stringNumbers(setup);
    const all = stringCount(setup);
    // Strings that are taken off may be named with x, or left out.
    const strings = called.length === all ? Array.from({ length: all }, (_, i) => all - i) : on;
    if (called.length !== strings.length) {
      return this.fault(
        node,
        `A grip names all ${on.length} strings, thick to thin, with x for one not played; this names ${called.length}. Say "on" before a note that follows.`,
      );
    }
    const notes: CalledNote[] = [];
    for (const [i, one] of called.entries()) {
      if (one.name === 'GripSkip') continue;
      const string = strings[i] ?? 1;
      if (setup.absent.includes(string)) return this.fault(one, `String ${string} is taken off: say x for it.`);
      const fret = one.name === 'GripOpen' ? 0 : this.fretTyped(string, Number(this.slice(one)));
      if (fret < 0) return this.fault(one, this.behind(string, fret));
      const pitch = pitchAt(setup, { string, fret });
      if (!pitch.ok) return this.fault(one, pitch.error.words);
      notes.push({ pitch: pitch.value, place: { string, fret, sure: true }, finger: null, dur: null });
    }
    if (notes.length === 0) return this.fault(node, 'A grip needs at least one string that sounds.');
    this.understood(node, `grip: ${notes.map((note) => this.name(note.pitch)).join(' ')}`);
    return notes;
  }
}
