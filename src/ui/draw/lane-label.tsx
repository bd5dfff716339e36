/** The name of a lane, at its left. */
export function LaneLabel({ y, children }: { readonly y: number; readonly children: string }) {
  return (
    <text x={4} y={y} className="fill-soft text-[13px] font-semibold">
      {children}
    </text>
  );
}
