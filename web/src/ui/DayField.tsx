interface Props {
  label: string;
  /** As "2026-11-25"; empty = none. */
  value: string;
  onChange: (day: string) => void;
}

/** A day to choose, or none. */
export function DayField({ label, value, onChange }: Props) {
  return (
    <label className="day-field">
      <span>{label}</span>
      <input type="date" className="input" value={value} onChange={(event) => onChange(event.target.value)} />
    </label>
  );
}
