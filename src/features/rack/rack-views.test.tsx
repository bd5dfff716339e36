import type { ReactNode } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it, vi } from 'vitest';
import { must } from '@/core/base';
import { fullCapo, INSTRUMENTS, makeSetup, retunePlan, TUNINGS, type Setup, type Tuning } from '@/core/instrument';
import { DEFAULT_SCHOOLS, type Schools } from '@/core/schools';
import { StudioProvider } from '@/features/studio/studio';
import type { PartSetup } from '@/server/repositories/pieces';
import type { RackEntry } from '@/server/repositories/rack';
import { SchoolsProvider } from '@/ui/schools';
import { ToastProvider } from '@/ui/toast';
import { CapoPage } from './capo-page';
import { DayPage } from './day-page';
import { InstrumentPage } from './instrument-page';
import { InstrumentsPage } from './instruments-page';
import { RackProvider } from './rack-context';
import { RetuneSteps } from './retune-steps';
import { StringsPage } from './strings-page';
import { TensionTable } from './tension-table';
import { TuningsPage } from './tunings-page';
import { textOf } from '@/ui/test-support/text';

/** The rack's pages as they are drawn: what is reckoned out stands there, in the instructor's words. */
vi.mock('next/navigation', () => ({ useRouter: () => ({ push: vi.fn() }), usePathname: () => '/rack' }));
vi.mock('@/server/context', () => ({ db: vi.fn(), currentActor: vi.fn() }));

interface Around {
  readonly schools?: Partial<Schools>;
  readonly instruments?: readonly RackEntry[];
  readonly tunings?: readonly Tuning[];
}
const drawn = (page: ReactNode, { schools = {}, instruments = [], tunings = [] }: Around = {}): string =>
  renderToStaticMarkup(
    <StudioProvider>
      <ToastProvider>
        <SchoolsProvider schools={{ ...DEFAULT_SCHOOLS, ...schools }} setSchools={vi.fn()}>
          <RackProvider rack={{ instruments, tunings }}>{page}</RackProvider>
        </SchoolsProvider>
      </ToastProvider>
    </StudioProvider>,
  );
const said = (...given: Parameters<typeof drawn>): string => textOf(drawn(...given));
/** The rows of the table within a section, as text. */
const rows = (html: string, label: string): string[] => {
  const [, section = ''] = html.split(`aria-label="${label}"`);
  return [...(section.split('</table>')[0] ?? '').matchAll(/<tr class="border-t[^"]*">(.*?)<\/tr>/gs)].map((row) =>
    textOf(row[1] ?? '').trim(),
  );
};

const setupOf = (instrument: string, tuning?: string): Setup => must(makeSetup({ instrument, tuning })).setup;
const guitar = setupOf('guitar-6');
const loft: RackEntry = {
  instrument: { ...guitar.instrument, id: 'i1', name: 'Loft guitar' },
  ...{ tones: [], revision: 0, changedAt: '2031-04-09T10:00:00.000Z', description: 'buzzes on the fifth' },
} as unknown as RackEntry;

describe('tunings', () => {
  it('say string by string what sounds, what changed and where the next string is met', () => {
    const html = drawn(<TuningsPage instrument="guitar-6" tuning="drop-d" />);
    const strings = rows(html, 'Strings');
    expect(strings).toHaveLength(6);
    expect(strings.at(-1) ?? strings[0]).toBeTruthy();
    const thick = strings.find((row) => row.includes('D2')) ?? '';
    expect(thick).toContain('−2 semitones');
    expect(thick).toMatch(/7$/);
    expect(strings.filter((row) => row.includes('as made for'))).toHaveLength(5);
    expect(textOf(html)).toContain('Octave shapes that move');
  });

  it('tell what grips have become, and leave a guitar as it is alone', () => {
    expect(said(<TuningsPage instrument="guitar-6" tuning="standard" />)).toContain('Every grip keeps its shape.');
    const open = said(<TuningsPage instrument="guitar-6" tuning="open-g" />);
    expect(open).toMatch(/\d+ of \d+ are other chords now/);
    expect(open).toContain('Strings that coincide');
  });

  it('take a spelling of one’s own, offer to keep it, and wait where it makes no sense yet', () => {
    const own = said(<TuningsPage instrument="guitar-6" tuning="C2 G2 D3 F3 A3 D4" />);
    expect(own).toContain('as a tuning of your own, named');
    expect(said(<TuningsPage instrument="guitar-6" tuning="Q W" />)).toContain(
      'As soon as the spelling makes sense, the tuning is explained here.',
    );
  });

  it('of the studio stand among the others and can be taken off', () => {
    const tuning: Tuning = {
      ...{ id: 'own-1', name: 'Attic', family: 'altered', spelling: 'D2 G2 D3 G3 C4 E4' },
      ...{ instruments: [], source: 'Kept by this studio.' },
    };
    const page = said(<TuningsPage instrument="guitar-6" tuning="own-1" />, { tunings: [tuning] });
    expect(page).toContain('Attic');
    expect(page).toContain('Take it off your list');
    expect(said(<TuningsPage instrument="guitar-6" tuning="drop-d" />, { tunings: [tuning] })).not.toContain(
      'Take it off your list',
    );
  });

  it('are drawn for every instrument and tuning of the catalogue', () => {
    for (const instrument of INSTRUMENTS) {
      const page = said(<TuningsPage instrument={instrument.id} tuning={null} />);
      expect(page, instrument.id).toContain('String by string');
      expect(page, instrument.id).toContain('All together');
    }
    for (const tuning of TUNINGS.filter((one) => one.instruments.length === 0).slice(0, 20))
      expect(said(<TuningsPage instrument="guitar-6" tuning={tuning.id} />), tuning.id).toContain(tuning.name);
  });

  it('name notes and strings as the instructor does', () => {
    const page = (schools: Partial<Schools>): string =>
      said(<TuningsPage instrument="guitar-6" tuning="standard" />, { schools });
    expect(page({ notes: 'german' })).toContain('H3');
    expect(page({ notes: 'solfege' })).toMatch(/Mi ?2/);
  });
});

describe('what strings bear', () => {
  const table = (tuning: string, instrument = 'guitar-6'): string => {
    const setup = setupOf(instrument, tuning);
    return said(<TensionTable instrument={setup.instrument} open={setup.open} absent={setup.absent} />);
  };
  it('is said in newtons with a grade and its reason, and against the tuning they are made for', () => {
    expect(table('standard')).toContain('fine');
    expect(table('standard')).not.toContain('qualified repairer');
    expect(table('C2 G2 C3 F3 A3 D4')).toContain('% on the neck');
  });

  it('comes with the caution where it is much', () => {
    const up = table('G2 C3 F3 A#3 D4 G4');
    expect(up).toMatch(/high|stop/);
    expect(up).toContain('keep the face away and protect the eyes');
    expect(up).toContain('qualified repairer');
  });

  it('leaves out a string that is off', () => {
    const all = setupOf('guitar-6', 'standard');
    const bare = textOf(drawn(<TensionTable instrument={all.instrument} open={all.open} absent={[6]} />));
    expect(bare).not.toContain('E2');
    expect(bare).toContain('E4');
  });
});

describe('retuning', () => {
  const steps = (tuning: string, compact = false): string => {
    const setup = setupOf('guitar-6', tuning);
    const plan = retunePlan(
      setup.instrument,
      setup.instrument.strings.map((one) => one.pitch),
      setup.open,
      [],
    );
    return said(<RetuneSteps plan={plan} setup={setup} compact={compact} />);
  };
  it('says each peg: which way, how far, from what to what', () => {
    expect(steps('standard')).toContain('Nothing to retune.');
    const drop = steps('drop-d');
    expect(drop).toContain('E2 → D2');
    expect(drop).toContain('down 2 semitones');
    expect(drop).toContain('a second time');
    expect(steps('drop-d', true)).not.toContain('a second time');
  });
});

describe('the day', () => {
  const part = (id: string, title: string, tuning: string, capo = 0): PartSetup =>
    ({
      ...{ id, piece: `piece${id}`, partId: 'p0', title, part: 'Guitar' },
      setup: { ...setupOf('guitar-6', tuning), ...(capo > 0 ? { capos: fullCapo(capo) } : {}) },
    }) as unknown as PartSetup;

  it('is put in the order that turns the fewest pegs', () => {
    const page = said(
      <DayPage
        parts={[
          part('a', 'Moth', 'standard'),
          part('b', 'Lamp', 'drop-d'),
          part('c', 'Boards', 'standard'),
          part('d', 'Trap', 'drop-d', 2),
        ]}
      />,
    );
    expect(page).toContain('1 peg to turn, 2 semitones in all; as listed it would be 3');
    expect(page).toContain('capo fret 2');
    const order = page.slice(page.indexOf('as listed'));
    const [first, second] = [order.indexOf('Moth'), order.indexOf('Boards')];
    const [third, fourth] = [order.indexOf('Lamp'), order.indexOf('Trap')];
    expect(Math.abs(first - second)).toBeLessThan(Math.abs(first - Math.max(third, fourth)));
  });

  it('without parts says so', () => {
    expect(said(<DayPage parts={[]} />)).toContain('The shelf has no parts yet.');
  });
});

describe('instruments', () => {
  it('stand on the rack with tuning, length and what was noted; none yet shows the way', () => {
    const page = said(<InstrumentsPage />, { instruments: [loft] });
    expect(page).toContain('Loft guitar');
    expect(page).toContain('E A D G B E');
    expect(page).toContain('buzzes on the fifth');
    expect(page).toContain('2031-04-09');
    expect(said(<InstrumentsPage />)).toContain('Begin with a copy of one from the catalogue');
  });

  it('open with all that figures rest on, and with their history', () => {
    const html = drawn(
      <InstrumentPage entry={loft} changes={[{ revision: 1, what: 'longer scale', madeAt: '2031-04-09T10:00:00Z' }]} />,
    );
    expect(textOf(html)).toContain('longer scale');
    expect(html).toContain(`value="${guitar.instrument.scaleMm}"`);
    expect(textOf(html)).toContain('Tune up and log');
  });
});

describe('the strings and the capo', () => {
  it('compare two set-ups, and say what a bend asks of the hand', () => {
    const page = said(<StringsPage />);
    expect(page).toContain('Dropped C');
    expect(page).toMatch(/\d+ N/);
  });

  it('plan says what is asked before anything is reckoned', () => {
    const html = drawn(<CapoPage />);
    expect(html).toContain('value="Bb F Gm Eb"');
    expect(textOf(html)).toContain('Left empty, the chords of the key are taken.');
  });
});
