/** Two rows of hand positions over each other, the old one dashed: how calm the hand is before and after. */
export function HandRibbon({
  before,
  after,
  label,
}: {
  readonly before: readonly number[];
  readonly after: readonly number[];
  readonly label: string;
}) {
  const [width, height] = [180, 44];
  const most = Math.max(5, ...before, ...after) + 1;
  const n = Math.max(before.length, after.length, 2);
  const line = (hands: readonly number[]): string => {
    let last = hands.find((hand) => hand > 0) ?? 1;
    return hands
      .map((hand, i) => {
        last = hand > 0 ? hand : last;
        const [x, y] = [(i / (n - 1)) * (width - 4) + 2, height - 3 - (last / most) * (height - 6)];
        return `${i === 0 ? 'M' : `H${x.toFixed(1)}V`}${i === 0 ? `${x.toFixed(1)},` : ''}${y.toFixed(1)}`;
      })
      .join('');
  };
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={label}
      className="block"
    >
      <line x1={0} x2={width} y1={height - 1} y2={height - 1} className="stroke-rule" />
      <path d={line(before)} fill="none" strokeWidth={2} strokeDasharray="3 3" className="stroke-line" />
      <path d={line(after)} fill="none" strokeWidth={2.5} className="stroke-proposed" />
    </svg>
  );
}
