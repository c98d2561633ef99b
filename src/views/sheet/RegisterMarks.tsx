/** Printers' marks at the corners of a sheet. */
export function RegisterMarks({ width: w, height: h, reach = 14 }: { width: number; height: number; reach?: number }) {
  const corners = [
    [0, 0, 1, 1],
    [w, 0, -1, 1],
    [0, h, 1, -1],
    [w, h, -1, -1],
  ] as const;
  return (
    <svg aria-hidden className="pointer-events-none absolute overflow-visible" width={w} height={h}>
      {corners.map(([x, y, dx, dy], i) => (
        <path
          key={i}
          d={`M${x - reach * dx} ${y}h${reach * 0.7 * dx}M${x} ${y - reach * dy}v${reach * 0.7 * dy}`}
          stroke="#111"
          strokeWidth={1.4}
          fill="none"
        />
      ))}
    </svg>
  );
}
