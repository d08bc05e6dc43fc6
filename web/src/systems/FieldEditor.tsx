import type { Schemas } from '../api/client';
import { newStep, STEPS, tableInText, tableOf, type From, type Step } from './matching';
import { Input, Select, TextArea, TextButton } from '../ui/kit';

interface Props {
  field: Schemas['FieldShown'];
  from: From | undefined;
  onChange: (from: From | undefined) => void;
}

/** Where one of Yoru's fields comes from: picked in the report, typed as a path, or always the same. */
export function FieldEditor({ field, from, onChange }: Props) {
  const steps = from?.steps ?? [];
  const withSteps = (next: Step[]): From => {
    const rest: From =
      from?.constant === undefined ? { path: from?.path ?? '$' } : { constant: from.constant };
    return next.length === 0 ? rest : { ...rest, steps: next };
  };
  const id = `field-${field.id.replaceAll('.', '-')}`;
  return (
    <div className="col-span-full grid grid-cols-[6rem_minmax(0,1fr)] items-center gap-1.5 py-2">
      <p className="text-soft">Click a value on the left, or type where it is.</p>
      <label htmlFor={`${id}-path`}>JSONPath</label>
      <Input
        id={`${id}-path`}
        className="font-code text-2xs"
        value={from?.path ?? ''}
        placeholder="$.buyer.mail"
        onChange={(event) =>
          onChange(
            event.target.value === ''
              ? undefined
              : { path: event.target.value, ...(steps.length > 0 && { steps }) },
          )
        }
      />
      <label htmlFor={`${id}-constant`}>or always</label>
      <Input
        id={`${id}-constant`}
        value={from?.constant ?? ''}
        placeholder={field.id === 'currency' ? 'EUR' : ''}
        onChange={(event) =>
          onChange(
            event.target.value === ''
              ? undefined
              : { constant: event.target.value, ...(steps.length > 0 && { steps }) },
          )
        }
      />
      {steps.map((step, number) => (
        <StepEditor
          key={number}
          step={step}
          onChange={(next) =>
            onChange(
              withSteps(
                next === undefined
                  ? steps.filter((_, other) => other !== number)
                  : steps.map((one, other) => (other === number ? next : one)),
              ),
            )
          }
        />
      ))}
      <Select
        aria-label={`Change ${field.title}`}
        value=""
        disabled={from === undefined}
        onChange={(event) => onChange(withSteps([...steps, newStep(event.target.value)]))}
      >
        <option value="">then …</option>
        {STEPS.map((known) => (
          <option key={known.do} value={known.do}>
            {known.name}
          </option>
        ))}
      </Select>
    </div>
  );
}

function StepEditor({ step, onChange }: { step: Step; onChange: (step: Step | undefined) => void }) {
  const name = STEPS.find((known) => known.do === step.do)?.name ?? step.do;
  return (
    <div className="col-span-full flex flex-wrap items-center gap-2">
      <span>{name}</span>
      {step.do === 'prefix' && (
        <Input
          aria-label="What is put before it"
          value={step.text ?? ''}
          onChange={(event) => onChange({ ...step, text: event.target.value })}
        />
      )}
      {step.do === 'date' && (
        <>
          <Input
            className="font-code text-2xs"
            aria-label="How the time is written"
            value={step.format ?? ''}
            onChange={(event) => onChange({ ...step, format: event.target.value })}
          />
          <Input
            aria-label="Time zone"
            value={step.zone ?? ''}
            onChange={(event) => onChange({ ...step, zone: event.target.value })}
          />
        </>
      )}
      {step.do === 'lookup' && (
        <TextArea
          className="h-20 font-code text-2xs whitespace-pre"
          aria-label="Table, one line for each: their word=your word"
          defaultValue={tableInText(step.table ?? {})}
          onBlur={(event) => onChange({ ...step, table: tableOf(event.target.value) })}
        />
      )}
      <TextButton onClick={() => onChange(undefined)} aria-label={`Leave out: ${name}`}>
        leave out
      </TextButton>
    </div>
  );
}
