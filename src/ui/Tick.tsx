/** A choice that is on or off, with its words. */
export function Tick({
  label,
  value,
  onChange,
  className = '',
}: {
  label: string;
  value: boolean;
  onChange: (value: boolean) => void;
  className?: string;
}) {
  return (
    <label className={`flex items-center gap-2 ${className}`}>
      <input type="checkbox" checked={value} onChange={(e) => onChange(e.target.checked)} className="h-4 w-4 shrink-0 accent-ink" />
      {label}
    </label>
  );
}
