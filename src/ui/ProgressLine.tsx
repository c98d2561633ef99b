/** How far work has come, 0..1, in ink. */
export function ProgressLine({ label, share, className = '' }: { label: string; share: number; className?: string }) {
  return (
    <div
      role="progressbar"
      aria-label={label}
      aria-valuenow={Math.round(share * 100)}
      aria-valuemin={0}
      aria-valuemax={100}
      className={`h-2 border border-ink ${className}`}
    >
      <div className="h-full bg-ink" style={{ width: `${Math.max(3, share * 100)}%` }} />
    </div>
  );
}
