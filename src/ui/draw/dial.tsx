/** A knob as a small face with its mark. */
export function Dial({ value, print = false }: { readonly value: number; readonly print?: boolean }) {
  const angle = ((210 + value * 30) * Math.PI) / 180;
  return (
    <svg width={24} height={24} aria-hidden className="shrink-0">
      <circle
        cx={12}
        cy={12}
        r={10}
        className={print ? 'fill-white stroke-black' : 'fill-wood stroke-line'}
        strokeWidth={1.5}
      />
      <line
        x1={12}
        y1={12}
        x2={12 + 8.5 * Math.sin(angle)}
        y2={12 - 8.5 * Math.cos(angle)}
        className={print ? 'stroke-black' : 'stroke-ink'}
        strokeWidth={2.2}
        strokeLinecap="round"
      />
    </svg>
  );
}
