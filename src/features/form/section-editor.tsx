import { ArrowDown, ArrowUp, Copy, Trash2, X } from 'lucide-react';
import { Fragment } from 'react';
import {
  deleteSection,
  duplicateSection,
  moveSection,
  patchSectionBy,
  setChordLine,
  setContext,
  setRow,
  setRowSound,
} from '@/core/command';
import { fail, ok, type Result } from '@/core/base';
import type { Edit } from '@/core/edit';
import {
  metersOf,
  parseBassLine,
  parseRow,
  PLAIN_LEVEL,
  printBassLine,
  printChordLine,
  printRow,
  proposeChords,
  sameLabel,
  type UseDraft,
} from '@/core/form';
import { readKey } from '@/core/harmony';
import { barCount, type Part, type Piece, type Section } from '@/core/score';
import { parseMeter, ZERO } from '@/core/time';
import { Button } from '@/ui/button';
import { RIFF_DRAG } from './chart-line';
import { LineField } from './line-field';
import { PassEditor } from './pass-editor';

interface Props {
  readonly piece: Piece;
  readonly section: Section;
  readonly edit: (made: Result<Edit>) => Result<unknown>;
  readonly onClose: () => void;
  readonly onChoose: (section: string) => void;
}

const tempoOfSection = (section: Section): string => {
  const [first] = section.context?.tempo ?? [];
  return first ? String(Math.round(first.bpm * 10) / 10) : '';
};
const keyOfSection = (section: Section): string => {
  const [first] = section.context?.key ?? [];
  return first ? `${first.tonic}${first.mode === 'minor' ? ' minor' : ''}` : '';
};
const meterOfSection = (section: Section): string => {
  const [first] = section.context?.meters ?? [];
  return first ? `${first.beats}/${first.unit}` : '';
};
const feelOfSection = (section: Section): string => {
  const [first] = section.context?.feel ?? [];
  return first ? (first.swing === 50 ? 'straight' : String(first.swing)) : '';
};

/** Everything one section says, to be typed: its bars, chords, what each part plays, and what differs by pass. */
export function SectionEditor({ piece, section, edit, onClose, onChoose }: Props) {
  const meters = metersOf(piece, section);
  const at = piece.sections.indexOf(section);
  const { id } = section;
  const takeNumber = (
    line: string,
    low: number,
    high: number,
    set: (value: number) => Result<Edit>,
  ): Result<unknown> => {
    const value = Number(line.replace(',', '.'));
    return line !== '' && Number.isFinite(value) && value >= low && value <= high
      ? edit(set(value))
      : fail('number', `A number from ${low} to ${high}.`);
  };
  return (
    <aside
      aria-label={`Section ${section.name}`}
      className="flex flex-col gap-3 overflow-y-auto border-l border-rule pl-4 max-[899px]:border-l-0 max-[899px]:pl-0"
    >
      <div className="flex items-center gap-1">
        <h2 className="min-w-0 flex-1 truncate text-lg">{section.name}</h2>
        <Button
          tone="quiet"
          size="icon"
          aria-label="Move the section up"
          disabled={at === 0}
          onClick={() => edit(moveSection(piece, id, at - 1))}
        >
          <ArrowUp size={16} aria-hidden />
        </Button>
        <Button
          tone="quiet"
          size="icon"
          aria-label="Move the section down"
          disabled={at === piece.sections.length - 1}
          onClick={() => edit(moveSection(piece, id, at + 1))}
        >
          <ArrowDown size={16} aria-hidden />
        </Button>
        <Button
          tone="quiet"
          size="icon"
          aria-label="Duplicate the section"
          onClick={() => {
            const copy = duplicateSection(piece, id);
            if (copy.ok && edit(ok(copy.value.edit)).ok) onChoose(copy.value.id);
          }}
        >
          <Copy size={16} aria-hidden />
        </Button>
        <Button
          tone="quiet"
          size="icon"
          aria-label="Delete the section"
          onClick={() => {
            if (edit(deleteSection(piece, id)).ok) onClose();
          }}
        >
          <Trash2 size={16} aria-hidden />
        </Button>
        <Button tone="quiet" size="icon" aria-label="Close the section" onClick={onClose}>
          <X size={18} aria-hidden />
        </Button>
      </div>
      <LineField
        label="Name"
        value={section.name}
        onTake={(line) =>
          line === ''
            ? fail('name', 'A section needs a name.')
            : edit(patchSectionBy(piece, id, { name: line.slice(0, 80) }))
        }
        told={(line) =>
          sameLabel(piece.sections, line, id)
            ? 'Another section is called so: in the order of playing it is told apart by “#2”.'
            : null
        }
        {...(sameLabel(piece.sections, section.name, id) ? { hint: 'Two sections are called so.' } : {})}
      />
      <div className="grid grid-cols-[5rem_1fr] gap-2">
        <LineField
          label="Bars"
          figures
          value={String(section.bars)}
          onTake={(line) => takeNumber(line, 1, 2000, (bars) => patchSectionBy(piece, id, { bars: Math.round(bars) }))}
        />
        <LineField
          label="Cue"
          value={section.cue ?? ''}
          onTake={(line) => edit(patchSectionBy(piece, id, { cue: line === '' ? null : line.slice(0, 200) }))}
        />
      </div>
      <LineField
        label="Chords over the bars"
        figures
        rows={2}
        value={printChordLine(section.context?.chords ?? [], meters, section.bars)}
        hint="| Am | Dm | Am 3 E7 1 | % |"
        onTake={(line) => edit(setChordLine(piece, id, line))}
      />
      {section.context?.chords ? null : (
        <Button
          size="small"
          className="-mt-1 self-start"
          onClick={() => {
            const chords = proposeChords(piece, section);
            edit(
              chords.length > 0
                ? setContext(piece, id, { chords })
                : fail('silent', 'Nothing sounds here that chords could be taken from.'),
            );
          }}
        >
          Propose from what sounds
        </Button>
      )}
      <LineField
        label="Bass notes, where they differ"
        figures
        value={printBassLine(section.context?.bass ?? [], meters, section.bars)}
        onTake={(line) => {
          if (line === '') return edit(setContext(piece, id, { bass: null }));
          const read = parseBassLine(line, meters, section.bars);
          return read.ok ? edit(setContext(piece, id, { bass: read.value })) : read;
        }}
      />
      <div className="grid grid-cols-4 gap-2">
        <LineField
          label="Key"
          value={keyOfSection(section)}
          onTake={(line) => {
            if (line === '') return edit(setContext(piece, id, { key: null }));
            const key = readKey(line);
            return key.ok ? edit(setContext(piece, id, { key: [{ at: ZERO, ...key.value }] })) : key;
          }}
        />
        <LineField
          label="Tempo"
          figures
          value={tempoOfSection(section)}
          onTake={(line) =>
            line === ''
              ? edit(setContext(piece, id, { tempo: null }))
              : takeNumber(line, 10, 500, (bpm) => setContext(piece, id, { tempo: [{ at: ZERO, bpm }] }))
          }
        />
        <LineField
          label="Meter"
          figures
          value={meterOfSection(section)}
          onTake={(line) => {
            if (line === '') return edit(setContext(piece, id, { meters: null }));
            const meter = parseMeter(line);
            return meter
              ? edit(setContext(piece, id, { meters: [{ bar: 0, ...meter }] }))
              : fail('meter', 'As 3/4 or 6/8.');
          }}
        />
        <LineField
          label="Swing %"
          figures
          value={feelOfSection(section)}
          onTake={(line) => {
            if (line === '') return edit(setContext(piece, id, { feel: null }));
            const swing = /^straight$/i.test(line) ? 50 : Number(line.replace('%', ''));
            return swing >= 50 && swing <= 80
              ? edit(setContext(piece, id, { feel: [{ at: ZERO, swing, unit: '1/2' }] }))
              : fail('swing', '50 (straight) to 80.');
          }}
        />
      </div>
      <p className="text-sm text-soft">Empty, they are the piece’s.</p>
      <h3 className="border-t border-rule pt-2 text-base">What each part plays</h3>
      {piece.parts.map((part) => (
        <PartRow key={part.id} {...{ piece, section, part, edit }} />
      ))}
      <PassEditor {...{ piece, section, edit }} />
    </aside>
  );
}

/** One part in a section: the typed row, its riffs to be added or dragged onto bars, how loud it is there. */
function PartRow({
  piece,
  section,
  part,
  edit,
}: {
  readonly piece: Piece;
  readonly section: Section;
  readonly part: Part;
  readonly edit: (made: Result<Edit>) => Result<unknown>;
}) {
  const row = section.rows.find((one) => one.part === part.id);
  const uses: readonly UseDraft[] = row?.uses ?? [];
  const riffs = part.riffs.filter((riff) => riff.events.length > 0);
  return (
    <Fragment>
      <LineField
        label={part.name}
        figures
        rows={2}
        value={printRow(uses, part)}
        onTake={(line) => {
          const read = parseRow(line, part);
          return read.ok ? edit(setRow(piece, section.id, part.id, read.value)) : read;
        }}
        hint={
          uses.length === 0 ? `${riffs[0]?.name ?? 'A'} 2 times, rest 1 bar, ${riffs[0]?.name ?? 'A'} up 5 frets` : ''
        }
      />
      <div className="-mt-2 flex flex-wrap items-center gap-1">
        {riffs.map((riff) => (
          <button
            key={riff.id}
            type="button"
            draggable
            onDragStart={(event) => event.dataTransfer.setData(RIFF_DRAG, `${part.id} ${riff.id}`)}
            onClick={() => edit(setRow(piece, section.id, part.id, [...uses, { riff: riff.id, plays: 1 }]))}
            title={`Adds ${riff.name} at the end; or drag it onto a bar, with Alt moved to the chord there`}
            className="min-h-7 rounded-[3px] border border-line/60 bg-sheet px-1.5 text-[13px] hover:border-ink"
          >
            + {riff.name} <span className="text-soft">{barCount(riff)}</span>
          </button>
        ))}
      </div>
      <div className="-mt-1 grid grid-cols-[1fr_5rem] gap-2">
        <LineField
          label="Tone here"
          value={row?.tone ?? ''}
          onTake={(line) => edit(setRowSound(piece, section.id, part.id, { tone: line || null }))}
        />
        <LineField
          label="Level"
          figures
          value={String(row?.level ?? PLAIN_LEVEL)}
          onTake={(line) => {
            const level = Math.round(Number(line));
            return line !== '' && level >= 0 && level <= 100
              ? edit(setRowSound(piece, section.id, part.id, { level: level === PLAIN_LEVEL ? null : level }))
              : fail('level', '0 to 100.');
          }}
        />
      </div>
    </Fragment>
  );
}
