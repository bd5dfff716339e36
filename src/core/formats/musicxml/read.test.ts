import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { must } from '../../base';
import { barStart } from '../../time';
import { guessSetup, type Reading } from '../music';
import { MUSICXML_LIMITS, readMusicXml } from './index';

const encode = (text: string): Uint8Array => new TextEncoder().encode(text);
const note = (step: string, octave: number, duration: number, extra = '', before = ''): string =>
  `<note>${before}<pitch><step>${step}</step><octave>${octave}</octave></pitch><duration>${duration}</duration>${extra}</note>`;
const rest = (duration: number): string => `<note><rest/><duration>${duration}</duration></note>`;
const technical = (inside: string): string => `<notations><technical>${inside}</technical></notations>`;
const TAB =
  '<clef><sign>TAB</sign></clef><staff-details><staff-lines>4</staff-lines>' +
  [
    ['1', 'E', 1],
    ['2', 'A', 1],
    ['3', 'D', 2],
    ['4', 'G', 2],
  ]
    .map(
      ([line, step, octave]) =>
        `<staff-tuning line="${line}"><tuning-step>${step}</tuning-step><tuning-octave>${octave}</tuning-octave></staff-tuning>`,
    )
    .join('') +
  '</staff-details>';
const score = (measures: readonly string[], name = 'Guitar', attributes = ''): string =>
  `<?xml version="1.0"?><score-partwise version="4.0"><work><work-title>Rope song</work-title></work>
  <part-list><score-part id="P1"><part-name>${name}</part-name></score-part></part-list><part id="P1">
  ${measures.map((one, i) => `<measure number="${i + 1}">${i === 0 ? `<attributes><divisions>2</divisions><time><beats>4</beats><beat-type>4</beat-type></time>${attributes}</attributes>` : ''}${one}</measure>`).join('\n')}
  </part></score-partwise>`;
const read = (text: string, answers = {}): Reading => must(readMusicXml(encode(text), { answers }));
const rule = (bytes: Uint8Array): string => {
  const made = readMusicXml(bytes);
  return made.ok ? 'ok' : made.error.rule;
};
const wordsOf = (bytes: Uint8Array): string => {
  const made = readMusicXml(bytes);
  return made.ok ? '' : made.error.words;
};
const events = (reading: Reading, part = 0): (string | number)[][] =>
  (reading.music.parts[part]?.events ?? []).map((event) => [
    event.at,
    event.dur,
    ...event.notes.map((one) => one.pitch.midi),
  ]);

describe('reading voices and time', () => {
  it('goes back and forth between voices, holds ties, counts tuplets and graces', () => {
    const bar =
      note('C', 3, 8, '<voice>2</voice><tie type="start"/>') +
      '<backup><duration>8</duration></backup>' +
      note('E', 4, 2, '<voice>1</voice>') +
      note('G', 4, 2, '<voice>1</voice>', '<chord/>') +
      '<forward><duration>2</duration></forward>' +
      '<note><grace/><pitch><step>D</step><octave>4</octave></pitch><voice>1</voice></note>' +
      note('E', 4, 4, '<voice>1</voice>');
    const next = note('C', 3, 2, '<voice>2</voice><tie type="stop"/>') + rest(6);
    const reading = read(score([bar, next]));
    expect(events(reading)).toEqual([
      ['0', '1', 48, 64, 67],
      ['15/8', '1/8', 62],
      ['2', '2', 64],
    ]);
    const [first, grace] = reading.music.parts[0]?.events ?? [];
    expect(first?.notes[0]?.dur).toBe('5');
    expect(grace?.grace).toBe(true);
  });

  it('tells tuplets exactly by their signs where divisions do not come out even', () => {
    const third =
      '<type>eighth</type><time-modification><actual-notes>3</actual-notes><normal-notes>2</normal-notes></time-modification>';
    const text = score([note('E', 3, 3, third) + note('F', 3, 3, third) + note('G', 3, 4, third) + rest(30)]).replace(
      '<divisions>2<',
      '<divisions>10<',
    );
    expect(events(read(text)).map(([at, dur]) => [at, dur])).toEqual([
      ['0', '1/3'],
      ['1/3', '1/3'],
      ['2/3', '1/3'],
    ]);
  });

  it('takes a first short measure as a pickup, and split measures as they are', () => {
    const split = '<measure number="X1" implicit="yes">';
    const text = score([note('E', 3, 2), note('F', 3, 8), note('G', 3, 2), note('A', 3, 6)])
      .replace('<measure number="3">', split)
      .replace('<measure number="4">', '<measure number="X2" implicit="yes">');
    const { music } = read(text);
    expect([music.pickup, music.bars]).toEqual(['1', 3]);
    expect(music.meters).toEqual([
      { bar: 0, beats: 4, unit: 4 },
      { bar: 1, beats: 1, unit: 4 },
      { bar: 2, beats: 3, unit: 4 },
    ]);
  });

  it('asks about an over-full bar, and does as it is answered', () => {
    const text = score([note('E', 3, 8), note('F', 3, 8) + note('G', 3, 2), note('A', 3, 8)]);
    const asked = read(text);
    expect(asked.questions).toMatchObject([
      { id: 'overfull-2', usual: 'longer', finding: { locus: { path: ['measure', 2] } } },
    ]);
    expect(asked.questions[0]?.finding.words).toContain('5 quarters');
    expect(barStart(asked.music.meters, 2)).toBe('9');
    const cut = read(text, { 'overfull-2': 'cut' });
    expect(barStart(cut.music.meters, 2)).toBe('8');
    expect(events(cut).map(([, , midi]) => midi)).toEqual([52, 53, 57]);
    expect(cut.leftOut.map((one) => one.what)).toContain('notes beyond an over-full bar');
  });

  it('reads the same score told measure by measure', () => {
    const parts = (order: (bars: string[][]) => string): string =>
      order([
        [note('E', 3, 8), note('F', 3, 8)],
        [note('C', 2, 8), note('D', 2, 8)],
      ]);
    const list =
      '<part-list><score-part id="A"><part-name>Guitar</part-name></score-part><score-part id="B"><part-name>Bass</part-name></score-part></part-list>';
    const one = '<attributes><divisions>2</divisions></attributes>';
    const partwise = parts(
      (bars) =>
        `<score-partwise>${list}${bars.map((own, p) => `<part id="${'AB'[p]}">${own.map((bar, i) => `<measure number="${i + 1}">${i === 0 ? one : ''}${bar}</measure>`).join('')}</part>`).join('')}</score-partwise>`,
    );
    const timewise = parts(
      (bars) =>
        `<score-timewise>${list}${[0, 1].map((i) => `<measure number="${i + 1}">${bars.map((own, p) => `<part id="${'AB'[p]}">${i === 0 ? one : ''}${own[i]}</part>`).join('')}</measure>`).join('')}</score-timewise>`,
    );
    expect(read(timewise).music).toEqual(read(partwise).music);
    expect(read(timewise).music.parts.map((part) => part.kind)).toEqual(['guitar', 'bass']);
  });
});

describe('reading what is played on strings', () => {
  it('takes tuning, capo, string, fret, finger and techniques of the tab, with what the staff over it says', () => {
    const staves = `<staves>2</staves><clef number="1"><sign>G</sign></clef>${TAB.replace('<clef>', '<clef number="2">').replace('<staff-details>', '<staff-details number="2">').replace('</staff-details>', '<capo>2</capo></staff-details>')}`;
    const staff =
      note(
        'C',
        2,
        4,
        '<voice>1</voice><staff>1</staff><notations><articulations><accent/></articulations></notations>',
      ) + note('D', 2, 4, '<voice>1</voice><staff>1</staff>');
    const tab =
      note(
        'C',
        2,
        4,
        `<voice>5</voice><staff>2</staff>${technical('<fingering>1</fingering><fret>1</fret><string>3</string><hammer-on type="start">H</hammer-on>')}`,
      ) +
      note(
        'D',
        2,
        4,
        `<voice>5</voice><staff>2</staff>${technical('<fret>3</fret><string>3</string><hammer-on type="stop"/>')}`,
      );
    const reading = read(score([`${staff}<backup><duration>8</duration></backup>${tab}`], 'Bass', staves));
    const [part] = reading.music.parts;
    expect(part?.tuning).toEqual([28, 33, 38, 43]);
    expect(part?.capo).toBe(2);
    expect(part?.events).toHaveLength(2);
    expect(part?.events[0]).toMatchObject({
      accent: 'accent',
      notes: [{ join: 'hammer', place: { string: 3, fret: 1, finger: 1, by: 'import', locked: true } }],
    });
    expect(guessSetup(part as NonNullable<typeof part>).setup).toMatchObject({
      capos: [{ fret: 2, strings: null }],
      instrument: { id: 'bass-4' },
    });
  });

  it('reads bends, slides, slurs on a string, dead notes and let ring as others write them', () => {
    const bar =
      note(
        'E',
        3,
        1,
        technical(
          '<string>4</string><fret>2</fret><bend><bend-alter>2</bend-alter></bend><bend><bend-alter>-2</bend-alter><release/></bend>',
        ),
      ) +
      note(
        'E',
        3,
        1,
        `<notations><slur type="start"/><technical><string>4</string><fret>2</fret></technical></notations>`,
      ) +
      note(
        'D',
        3,
        1,
        `<notations><slur type="stop"/><technical><string>4</string><fret>0</fret></technical></notations>`,
      ) +
      note('A', 2, 1, `<notehead>x</notehead>${technical('<string>4</string><fret>0</fret>')}`) +
      note(
        'E',
        3,
        2,
        `<notations><slide type="start"/><tied type="let-ring"/><technical><string>4</string><fret>2</fret></technical></notations>`,
      ) +
      note('G', 3, 2, technical('<string>4</string><fret>5</fret>'));
    const reading = read(score([bar], 'Guitar', TAB));
    const notes = (reading.music.parts[0]?.events ?? []).map((event) => [
      event.letRing,
      event.notes[0]?.join ?? null,
      event.notes[0]?.technique ?? {},
    ]);
    expect(notes[0]).toMatchObject([
      false,
      null,
      { bend: 200, bendCurve: [{ cents: 0 }, { cents: 200 }, { cents: 200 }, { cents: 0 }] },
    ]);
    expect(notes[1]).toEqual([false, 'pull', {}]);
    expect(notes[3]?.[2]).toEqual({ dead: true });
    expect(notes[4]).toEqual([true, 'slide', {}]);
  });

  it('sounds a transposing part where it sounds', () => {
    expect(
      events(
        read(
          score(
            [note('E', 4, 8)],
            'Guitar',
            '<transpose><chromatic>0</chromatic><octave-change>-1</octave-change></transpose>',
          ),
        ),
      )[0]?.[2],
    ).toBe(52);
    expect(
      events(
        read(
          score(
            [note('E', 4, 8)],
            'Clarinet',
            '<transpose><diatonic>-1</diatonic><chromatic>-2</chromatic></transpose>',
          ),
        ),
      )[0]?.[2],
    ).toBe(62);
  });

  it('leaves drums, lyrics and cue notes out and says so', () => {
    const drums = read(score([note('E', 3, 4, '<lyric><text>la</text></lyric>') + note('E', 3, 4, '', '<cue/>')]));
    expect(drums.leftOut.map((one) => one.what)).toEqual(['lyrics', 'cue notes']);
    expect(drums.leftOut[0]?.where).toBe('Guitar, measure 1');
    const two = score([note('E', 3, 8)])
      .replace('</part-list>', '<score-part id="D"><part-name>Drum kit</part-name></score-part></part-list>')
      .replace(
        '</score-partwise>',
        `<part id="D"><measure number="1">${note('E', 3, 8)}</measure></part></score-partwise>`,
      );
    expect(read(two).music.parts.map((part) => part.kind)).toEqual(['guitar', 'drums']);
  });
});

describe('reading the form', () => {
  const bar = note('E', 3, 8);
  const end = (inside: string): string => `<barline location="right">${inside}</barline>`;
  const start = (inside: string): string => `<barline location="left">${inside}</barline>`;
  const words = (text: string): string =>
    `<direction><direction-type><words>${text}</words></direction-type></direction>`;
  const order = (measures: string[]): number[][] =>
    read(score(measures)).music.order.map((range) => [range.from, range.to]);

  it('plays repeats with endings in their order', () => {
    expect(
      order([
        bar,
        start('<repeat direction="forward"/>') + bar,
        start('<ending number="1, 2" type="start"/>') +
          bar +
          end('<ending number="1, 2" type="stop"/><repeat direction="backward"/>'),
        start('<ending number="3" type="start"/>') + bar + end('<ending number="3" type="discontinue"/>'),
        bar,
      ]),
    ).toEqual([
      [0, 3],
      [1, 3],
      [1, 2],
      [3, 5],
    ]);
    expect(order([bar, bar + end('<repeat direction="backward" times="3"/>'), bar])).toEqual([
      [0, 2],
      [0, 2],
      [0, 3],
    ]);
  });

  it('jumps back to the sign and on to the coda, to "fine", or to the end', () => {
    const sign = '<direction><direction-type><segno/></direction-type></direction>';
    const coda = '<direction><direction-type><coda/></direction-type></direction>';
    expect(order([bar, sign + bar, bar + words('To Coda'), bar + words('D.S. al Coda'), coda + bar])).toEqual([
      [0, 4],
      [1, 3],
      [4, 5],
    ]);
    expect(order([bar, bar + words('Fine'), bar + words('D.C. al Fine')])).toEqual([
      [0, 3],
      [0, 2],
    ]);
    expect(order([bar, bar + '<sound dacapo="yes"/>'])).toEqual([
      [0, 2],
      [0, 2],
    ]);
  });

  it('takes marks, chords, tempo and swing', () => {
    const { music } = read(
      score([
        `<direction><direction-type><rehearsal>Verse</rehearsal></direction-type></direction><direction><direction-type><metronome><beat-unit>quarter</beat-unit><beat-unit-dot/><per-minute>60</per-minute></metronome></direction-type></direction>${words('Swing')}<harmony><root><root-step>B</root-step><root-alter>-1</root-alter></root><kind>minor-seventh</kind><bass><bass-step>D</bass-step></bass></harmony>${bar}`,
        bar,
      ]),
    );
    expect(music.marks).toEqual([{ bar: 0, name: 'Verse' }]);
    expect(music.tempo).toEqual([{ at: '0', bpm: 90 }]);
    expect(music.feel).toEqual([{ at: '0', swing: 67, unit: '1/2' }]);
    expect(music.chords[0]).toMatchObject({ at: '0', chord: 'Bbm7/D' });
  });
});

describe('encodings', () => {
  const text = score([note('E', 3, 8)], 'Gîtarre ♭');
  it('are known by mark, by letters and by declaration', () => {
    const wide = (little: boolean, mark: boolean): Uint8Array => {
      const bytes: number[] = mark ? (little ? [0xff, 0xfe] : [0xfe, 0xff]) : [];
      for (const letter of text)
        for (const unit of letter.split('')) {
          const code = unit.charCodeAt(0);
          bytes.push(...(little ? [code & 255, code >> 8] : [code >> 8, code & 255]));
        }
      return Uint8Array.from(bytes);
    };
    for (const bytes of [
      encode(text),
      Uint8Array.from([0xef, 0xbb, 0xbf, ...encode(text)]),
      wide(true, true),
      wide(false, true),
      wide(true, false),
      wide(false, false),
    ])
      expect(must(readMusicXml(bytes)).music.parts[0]?.name).toBe('Gîtarre ♭');
    const latin = text.replace(' ♭', '').replace('version="1.0"', 'version="1.0" encoding="ISO-8859-1"');
    const bytes = Uint8Array.from([...latin].map((letter) => letter.charCodeAt(0)));
    expect(must(readMusicXml(bytes)).music.parts[0]?.name).toBe('Gîtarre');
    // Declared as two bytes a letter, and written as one.
    expect(rule(encode(text.replace('version="1.0"', 'version="1.0" encoding="UTF-16"')))).toBe('ok');
  });

  it('wrongly declared are told, with the place', () => {
    const bytes = encode(text).slice();
    const at = text.indexOf('î');
    const broken = Uint8Array.from([...bytes.subarray(0, at), 0xee, ...bytes.subarray(at + 2)]);
    const made = readMusicXml(broken);
    expect(made).toMatchObject({ ok: false, error: { rule: 'encoding' } });
    expect(Math.abs((made.ok ? 0 : (made.error.locus.byte ?? 0)) - at)).toBeLessThan(4);
    expect(rule(encode(text.replace('version="1.0"', 'version="1.0" encoding="x-owl"')))).toBe('encoding');
  });
});

describe('hostile files', () => {
  const timed = (bytes: Uint8Array): string => {
    const began = performance.now();
    const found = rule(bytes);
    expect(performance.now() - began).toBeLessThan(20_000);
    return found;
  };

  it('are refused with the line or the measure', () => {
    expect(wordsOf(encode(score([note('E', 3, 8)]).slice(0, 420)))).toMatch(/line \d+/);
    expect(wordsOf(encode(score([note('E', 3, 8), note('E', 3, -4)])))).toContain(
      'Guitar, measure 2: a duration of -4',
    );
    expect(wordsOf(encode(score([note('E', 3, 999_999)])))).toContain('measure 1');
    expect(wordsOf(encode(score([note('E', 3, 8)]).replace('<divisions>2<', '<divisions>0<')))).toContain(
      '0 divisions',
    );
    expect(rule(encode('<html><body>no score</body></html>'))).toBe('not-musicxml');
    expect(rule(encode(score([rest(8)])))).toBe('no-notes');
    expect(rule(encode('<score-partwise></score-partwise>'))).toBe('no-part');
    expect(rule(new Uint8Array(MUSICXML_LIMITS.bytes + 1))).toBe('too-large');
  });

  it('never follow entities, nor go deeper or longer than a score does', () => {
    const bomb = `<?xml version="1.0"?><!DOCTYPE score-partwise [<!ENTITY a "owl"><!ENTITY b "&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;">]><score-partwise><work><work-title>&c;</work-title></work></score-partwise>`;
    expect(timed(encode(bomb))).toBe('broken-xml');
    const outside =
      '<?xml version="1.0"?><!DOCTYPE score-partwise [<!ENTITY x SYSTEM "file:///etc/passwd">]><score-partwise><work><work-title>&x;</work-title></work></score-partwise>';
    expect(timed(encode(outside))).toBe('broken-xml');
    expect(timed(encode('<score-partwise>'.repeat(5000)))).toBe('too-deep');
    expect(timed(encode(`<score-partwise>${'<a/>'.repeat(1_250_000)}</score-partwise>`))).toBe('too-many');
    const million = score([`${note('E', 3, 1)}<backup><duration>1</duration></backup>`.repeat(70_000)]);
    expect(timed(encode(million))).toMatch(/too-many|too-large/);
  });

  it('packed are bounded by what they would become', () => {
    const bomb = zipSync({ 'score.xml': new Uint8Array(MUSICXML_LIMITS.bytes + 1024) }, { level: 9 });
    expect(bomb.length).toBeLessThan(100_000);
    expect(timed(bomb)).toBe('too-large');
    expect(timed(zipSync({ 'readme.txt': encode('no score') }))).toBe('no-score');
    expect(timed(zipSync({ 'score.xml': encode(score([note('E', 3, 8)])) }).subarray(0, 200))).toBe('broken-zip');
    // Whatever its container says of a file that is not there, the score is found.
    const lost = {
      'META-INF/container.xml': encode(
        '<container><rootfiles><rootfile full-path="gone.xml"/></rootfiles></container>',
      ),
      'a.xml': encode(score([note('E', 3, 8)])),
    };
    expect(timed(zipSync(lost))).toBe('ok');
  });
});
