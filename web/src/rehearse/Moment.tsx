import { DayField } from '../ui/DayField';
import { FieldFrame, Input } from '../ui/kit';

interface Props {
  label: string;
  /** A local date and time, "2030-03-04T09:00". */
  value: string;
  onChange: (value: string) => void;
}

const CLOCK = /^([01]\d|2[0-3]):[0-5]\d$/;

/** A day and a time of the school. */
export function Moment({ label, value, onChange }: Props) {
  const [day = '', time = ''] = value.split('T');
  return (
    <div className="flex items-end gap-2">
      <div className="w-44">
        <DayField
          label={label}
          value={day}
          onChange={(next) => {
            if (next !== '') onChange(`${next}T${time}`);
          }}
        />
      </div>
      <FieldFrame label="At" className="w-auto!">
        {(tied) => (
          <Input
            {...tied}
            key={time}
            className="w-20"
            defaultValue={time.slice(0, 5)}
            pattern="([01]\\d|2[0-3]):[0-5]\\d"
            placeholder="09:00"
            onBlur={(event) => {
              if (CLOCK.test(event.target.value)) onChange(`${day}T${event.target.value}`);
            }}
          />
        )}
      </FieldFrame>
    </div>
  );
}
