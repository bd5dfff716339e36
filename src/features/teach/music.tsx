import { soundingName, stringNumbers } from '@/core/instrument';
import type { Key } from '@/core/pitch';
import { strokesOf } from '@/core/rhythm';
import { type Part, type Riff, type RiffEvent } from '@/core/score';
import { staffBars, swingWrittenOut, type StaffChoice } from '@/core/staff';
import { barStart, cmp, toNumber, type Quarter } from '@/core/time';
import { fretTextOf } from '@/ui/draw/lanes';
import { spacedScale, type Figures } from '@/ui/draw/spacing';
import { Staff } from '@/ui/draw/staff';
import { packedRows, type StripRow } from '@/ui/draw/strip-layout';
import { TAB_LEAD, TAB_LEFT, tabFigures, tabRoom, TabSystem } from '@/ui/draw/tab-system';
import { useSchools } from '@/ui/schools';
import { SHEET_WIDTH } from './sheet-common';

/** A part's bars to be printed; all of a system have the same bars. */
export interface Printed {
  readonly part: Part;
  readonly riff: Riff;
}

/** Pixels across a system in large print: fewer on the same paper are larger. */
const LARGE_WIDTH = 460;

interface Props {
  readonly printed: readonly Printed[];
  readonly keyShown: Key | null;
  readonly firstNumber: number;
  readonly chords: readonly { readonly at: Quarter; readonly name: string }[];
  readonly repeated: boolean;
  readonly meterShown: boolean;
  readonly choice: {
    readonly staff: boolean;
    readonly fingers: boolean;
    readonly strokes: boolean;
    readonly large: boolean;
  };
}

/** Events of several parts as one list, by time: what the systems of a row must all leave room for. */
function merged(printed: readonly Printed[]): Riff | null {
  const [first] = printed;
  if (!first) return null;
  if (printed.length === 1) return first.riff;
  const byTime = new Map<Quarter, RiffEvent>();
  let { pickup } = first.riff;
  for (const { riff } of printed) {
    if (cmp(riff.pickup, pickup) > 0) pickup = riff.pickup;
    for (const event of riff.events) {
      const there = byTime.get(event.at);
      byTime.set(event.at, there ? { ...there, notes: [...there.notes, ...event.notes] } : event);
    }
  }
  const events = [...byTime.values()].sort((a, b) => toNumber(a.at) - toNumber(b.at));
  return { ...first.riff, pickup, bars: Math.max(...printed.map(({ riff }) => riff.bars)), events };
}

/** The events of one part in a row cut for all. */
function rowOf(row: StripRow, riff: Riff): StripRow {
  const to = barStart(riff.meters, row.firstBar + row.bars);
  const from = barStart(riff.meters, row.firstBar);
  const events = riff.events.filter(
    (event) => (row.firstBar === 0 || cmp(event.at, from) >= 0) && cmp(event.at, to) < 0,
  );
  return {
    ...row,
    events,
    before: riff.events.findLast((event) => row.firstBar > 0 && cmp(event.at, from) < 0) ?? null,
  };
}

const chordsIn = (row: StripRow, chords: Props['chords']): Props['chords'] =>
  chords.filter((one) => cmp(one.at, row.to) < 0 && (row.firstBar === 0 || cmp(one.at, row.from) >= 0));

/** Music in systems: staff and tab of each part on one time axis, joined at their left, never torn from each other. */
export function Music({ printed, keyShown, firstNumber, chords, repeated, meterShown, choice }: Props) {
  const schools = useSchools();
  const shown =
    schools.swing === 'triplets' ? printed.map((one) => ({ ...one, riff: swingWrittenOut(one.riff) })) : printed;
  const all = merged(shown);
  const [first] = shown;
  if (!all || !first) return null;
  const textOf = (part: Part): ReturnType<typeof fretTextOf> => fretTextOf(part.setup, schools.frets);
  const full = choice.large ? LARGE_WIDTH : SHEET_WIDTH;
  // A bar by itself is not drawn over the whole page.
  const width = all.bars === 1 && all.events.length <= 10 && !choice.staff ? Math.round(full * 0.6) : full;
  const figures: Figures = tabFigures(textOf(first.part));
  const rows = packedRows(all, tabRoom(width), figures);
  const staffChoice: StaffChoice = { key: keyShown, pitch: schools.staff };
  // A short riff stays on one page.
  const together = rows.length <= 3 && shown.length === 1;
  return (
    <div
      className={together ? 'flex break-inside-avoid flex-col gap-2' : 'flex flex-col gap-2'}
      // Everything of it larger, the staff too, which is engraved in pixels.
      style={
        choice.large
          ? { width, zoom: SHEET_WIDTH / LARGE_WIDTH }
          : width < full
            ? { width: `${(100 * width) / full}%` }
            : undefined
      }
    >
      {rows.map((row, i) => {
        const scale = spacedScale(row, all.meters, TAB_LEFT + TAB_LEAD, tabRoom(width), figures);
        return (
          <div
            key={row.index}
            className={
              shown.length > 1 || choice.staff ? 'break-inside-avoid border-l-2 border-black' : 'break-inside-avoid'
            }
          >
            {choice.staff ? <ChordRow chords={chordsIn(row, chords)} width={width} scale={scale} /> : null}
            {sounding(row, shown).map(({ part, riff }, p) => (
              <OneSystem
                key={part.id}
                {...{ part, riff, keyShown, staffChoice, width, choice }}
                row={rowOf(row, riff)}
                next={rows[i + 1] ? (rowOf(rows[i + 1] as StripRow, riff).events[0] ?? null) : null}
                scale={scale}
                firstNumber={firstNumber}
                chords={p === 0 && !choice.staff ? chords : []}
                named={shown.length > 1}
                meterShown={meterShown}
                opens={repeated && i === 0}
                closes={repeated && i === rows.length - 1}
              />
            ))}
          </div>
        );
      })}
    </div>
  );
}

/** Parts that play in a row; a score leaves out who is silent, and where all are keeps the first. */
function sounding(row: StripRow, printed: readonly Printed[]): readonly Printed[] {
  const playing = printed.filter(({ riff }) => rowOf(row, riff).events.length > 0);
  return playing.length > 0 ? playing : printed.slice(0, 1);
}

/** Chords over a staff, where its notes may reach far down to the tab. */
function ChordRow({
  chords,
  width,
  scale,
}: {
  readonly chords: Props['chords'];
  readonly width: number;
  readonly scale: ReturnType<typeof spacedScale>;
}) {
  if (chords.length === 0) return null;
  return (
    <svg
      viewBox={`0 0 ${width} 17`}
      width="100%"
      role="img"
      aria-label={`Chords: ${chords.map((one) => one.name).join(', ')}`}
      className="block text-black"
    >
      {chords.map((one) => (
        <text key={one.at} x={scale(one.at) - 8} y={14} fontSize={15} fontWeight={700} fontFamily="var(--font-text)">
          {one.name}
        </text>
      ))}
    </svg>
  );
}

function OneSystem({
  part,
  riff,
  row,
  next,
  scale,
  keyShown,
  staffChoice,
  width,
  choice,
  firstNumber,
  chords,
  named,
  opens,
  closes,
  meterShown,
}: {
  readonly part: Part;
  readonly riff: Riff;
  readonly row: StripRow;
  readonly next: RiffEvent | null;
  readonly scale: ReturnType<typeof spacedScale>;
  readonly keyShown: Key | null;
  readonly staffChoice: StaffChoice;
  readonly width: number;
  readonly choice: Props['choice'];
  readonly firstNumber: number;
  readonly chords: Props['chords'];
  readonly named: boolean;
  readonly opens: boolean;
  readonly closes: boolean;
  readonly meterShown: boolean;
}) {
  const schools = useSchools();
  const { setup } = part;
  const strings = stringNumbers(setup).reverse();
  const bars = { from: row.firstBar, count: row.bars };
  const numbers = `${firstNumber + row.firstBar} to ${firstNumber + row.firstBar + row.bars - 1}`;
  const struck = choice.strokes
    ? new Map(strokesOf(riff, setup, riff.picking ?? schools.picking).map((one) => [one.event, one]))
    : null;
  return (
    <div>
      {named ? <p className="pl-9 text-[11px] leading-[12px] font-semibold">{part.name}</p> : null}
      {choice.staff ? (
        <Staff
          {...{ riff, setup, bars }}
          choice={staffChoice}
          width={width}
          scale={0.8}
          x={scale}
          lead={12}
          label={`${part.name}, staff of bars ${numbers}`}
        />
      ) : null}
      <TabSystem
        {...{ row, next, width, strings, scale, firstNumber, chords, opens, closes, meterShown }}
        meters={riff.meters}
        names={strings.map((string) =>
          soundingName({ ...setup, capos: [] }, string, { key: keyShown, naming: schools.notes }),
        )}
        fingers={choice.fingers}
        fretText={fretTextOf(setup, schools.frets)}
        written={staffBars(riff, setup, bars, staffChoice)}
        strokes={struck}
        label={`${part.name}, tab of bars ${numbers}`}
      />
    </div>
  );
}
