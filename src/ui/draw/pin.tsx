/** Locked by the instructor. */
export function Pin({ x, y, s = 1 }: { x: number; y: number; s?: number }) {
  return (
    <g className="stroke-yours fill-yours" strokeWidth={1.4}>
      <line x1={x - 3 * s} y1={y + 5 * s} x2={x} y2={y} />
      <circle cx={x} cy={y} r={2.6 * s} stroke="none" />
    </g>
  );
}
