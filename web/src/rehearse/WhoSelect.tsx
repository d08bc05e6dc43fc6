import { FieldFrame, Select } from '../ui/kit';
import type { Story } from './model';

interface Props {
  label: string;
  people: Story['people'];
  /** Their id; none = the first, whom the story is about. */
  who: string | undefined;
  onChange: (who: string | undefined) => void;
}

export function nameOf(person: Story['people'][number] | undefined): string {
  return person?.name ?? person?.id ?? '';
}

/** One of the people of a story. */
export function WhoSelect({ label, people, who, onChange }: Props) {
  return (
    <FieldFrame label={label} className="w-auto!">
      {(tied) => (
        <Select
          {...tied}
          value={who ?? ''}
          onChange={(event) => onChange(event.target.value === '' ? undefined : event.target.value)}
        >
          <option value="">{nameOf(people[0])}</option>
          {people.slice(1).map((one) => (
            <option key={one.id} value={one.id}>
              {nameOf(one)}
            </option>
          ))}
        </Select>
      )}
    </FieldFrame>
  );
}
