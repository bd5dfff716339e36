import type { Midi, StringNumber } from '@/core/base';
import { kilogramsForce, tensionReport, type Instrument, type TensionGrade } from '@/core/instrument';
import { useSchools } from '@/ui/schools';
import { pitchLabel } from '@/core/schools';

const GRADE: Readonly<Record<TensionGrade, { readonly word: string; readonly tone: string; readonly sign: string }>> = {
  floppy: { word: 'floppy', tone: 'text-question', sign: '∼' },
  fine: { word: 'fine', tone: 'text-proposed', sign: '✓' },
  high: { word: 'high', tone: 'text-question', sign: '▲' },
  stop: { word: 'stop', tone: 'text-trouble', sign: '✕' },
};

export function GradeWord({ grade }: { readonly grade: TensionGrade | null }) {
  if (grade === null) return <span className="text-soft">unknown</span>;
  const { word, tone, sign } = GRADE[grade];
  return (
    <b className={tone}>
      <span aria-hidden>{sign} </span>
      {word}
    </b>
  );
}

interface Props {
  readonly instrument: Instrument;
  readonly open: readonly Midi[];
  readonly absent: readonly StringNumber[];
}

/** Tension string by string with its grade and what it means, and what the neck bears in all. */
export function TensionTable({ instrument, open, absent }: Props) {
  const schools = useSchools();
  const report = tensionReport(instrument, open, absent, schools.a4);
  const worrying = report.strings.some((row) => row.grade === 'stop' || row.grade === 'high');
  const more = report.reference > 0 ? report.total / report.reference - 1 : 0;
  return (
    <>
      <div className="relative overflow-x-auto">
        <table className="mt-2 w-full text-[15px]">
          <thead className="text-left text-sm text-soft">
            <tr>
              <th className="w-16 font-semibold">String</th>
              <th className="w-20 font-semibold">Open</th>
              <th className="w-32 font-semibold">Gauge</th>
              <th className="w-32 text-right font-semibold">Tension</th>
              <th className="w-28 text-right font-semibold">Own tuning</th>
              <th className="w-28 pl-6 font-semibold">Grade</th>
              <th className="font-semibold">Why</th>
            </tr>
          </thead>
          <tbody>
            {report.strings.map((row) => (
              <tr key={`${row.string}${row.partner}`} className="border-t border-rule align-baseline">
                <td className="py-1 font-figures font-bold">
                  {row.partner ? <span className="pl-3 font-normal text-soft">second</span> : row.string}
                </td>
                <td className="font-figures">{pitchLabel(row.pitch, schools.notes)}</td>
                <td className="font-figures">{row.gaugeMm.toFixed(3)} mm</td>
                <td className="text-right font-figures font-bold">
                  {row.newtons === null ? '–' : `${row.newtons.toFixed(0)} N`}{' '}
                  <span className="font-normal text-soft">
                    {row.newtons === null ? '' : `${kilogramsForce(row.newtons).toFixed(1)} kg`}
                  </span>
                </td>
                <td className="text-right font-figures text-soft">
                  {row.reference === null ? '–' : `${row.reference.toFixed(0)} N`}
                </td>
                <td className="pl-6">
                  <GradeWord grade={row.grade} />
                </td>
                <td className="text-soft">{row.why}</td>
              </tr>
            ))}
            <tr className="border-t-2 border-line">
              <td className="py-1 font-bold" colSpan={3}>
                All together
              </td>
              <td className="text-right font-figures font-bold">
                {report.total.toFixed(0)} N{' '}
                <span className="font-normal text-soft">{kilogramsForce(report.total).toFixed(1)} kg</span>
              </td>
              <td className="text-right font-figures text-soft">{report.reference.toFixed(0)} N</td>
              <td className="pl-6 font-figures" colSpan={2}>
                {Math.abs(more) < 0.005
                  ? ''
                  : `${more > 0 ? '+' : '−'}${Math.abs(more * 100).toFixed(0)} % on the neck`}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      {worrying || Math.abs(more) > 0.15 ? (
        <p className="mt-2 border-l-4 border-trouble pl-3 text-[15px]">
          A string under too much tension snaps: keep the face away and protect the eyes. So large a change on the neck
          needs a qualified repairer before it stays.
        </p>
      ) : null}
    </>
  );
}
