/** A line of text that is taken as it is typed. */
export function PlanField({
  label,
  value,
  onChange,
  isWide = false,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  isWide?: boolean;
}) {
  return (
    <label className={`flex items-center gap-2 ${isWide ? 'min-w-0 flex-1' : ''}`}>
      <span className="shrink-0">{label}</span>
      <input
        value={value}
        maxLength={300}
        spellCheck={false}
        onChange={(e) => onChange(e.target.value)}
        onKeyDown={(e) => e.stopPropagation()}
        className={`h-7 border border-hairline bg-white px-2 ${isWide ? 'w-full min-w-0' : 'w-[120px]'}`}
      />
    </label>
  );
}
