import { Input, Select } from '../ui/kit';

const UNITS = [
  ['PT#M', 'minutes'],
  ['PT#H', 'hours'],
  ['P#D', 'days'],
  ['P#W', 'weeks'],
  ['P#M', 'months'],
  ['P#Y', 'years'],
] as const;

function read(after: string): { count: number; unit: string } | undefined {
  for (const [unit] of UNITS) {
    const [before = '', behind = ''] = unit.split('#');
    const count = after.slice(before.length, after.length - behind.length);
    if (after.startsWith(before) && after.endsWith(behind) && /^\d+$/.test(count)) {
      return { count: Number(count), unit };
    }
  }
  return undefined;
}

/** How long after the step before it: of one unit as number and word, of several as it is written. */
export function LaterBy({ after, onChange }: { after: string; onChange: (after: string) => void }) {
  const single = read(after);
  if (single === undefined) {
    return (
      <Input
        className="w-32"
        aria-label="How long after, as an ISO 8601 period"
        value={after}
        onChange={(event) => onChange(event.target.value)}
      />
    );
  }
  return (
    <>
      <Input
        type="number"
        className="w-18"
        aria-label="How long after"
        min={0}
        max={9999}
        value={single.count}
        onChange={(event) => {
          const count = Number(event.target.value);
          if (Number.isInteger(count) && count >= 0 && count <= 9999)
            onChange(single.unit.replace('#', String(count)));
        }}
      />
      <Select
        aria-label="Of what"
        value={single.unit}
        onChange={(event) => onChange(event.target.value.replace('#', String(single.count)))}
      >
        {UNITS.map(([unit, words]) => (
          <option key={unit} value={unit}>
            {words}
          </option>
        ))}
      </Select>
    </>
  );
}
