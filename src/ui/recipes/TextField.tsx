/** A line of text in a dialog. */

export function TextField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <input
      aria-label={label}
      value={value}
      maxLength={120}
      onChange={(event) => onChange(event.target.value)}
      className="h-7 w-full min-w-0 rounded-[7px] border border-linen-3 bg-paper px-2"
    />
  );
}
