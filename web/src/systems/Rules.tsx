import { placeInWords, type Condition, type Rule } from './matching';
import { Button, Input, Panel, Select, TextButton } from '../ui/kit';

interface Props {
  rules: Rule[];
  facts: string[];
  /** Of which rule a condition is picked by clicking in the report. */
  picking: number | undefined;
  onPick: (rule: number | undefined) => void;
  onChange: (rules: Rule[]) => void;
}

const SAID = (fact: string) => fact.replace('.', ' ').replaceAll('-', ' ');

/** When a report tells of what; the first rule that fits counts. */
export function Rules({ rules, facts, picking, onPick, onChange }: Props) {
  const set = (number: number, rule: Rule | undefined) =>
    onChange(
      rule === undefined
        ? rules.filter((_, other) => other !== number)
        : rules.map((one, other) => (other === number ? rule : one)),
    );
  return (
    <Panel as="div">
      {rules.map((rule, number) => (
        <RuleRow
          key={number}
          rule={rule}
          facts={facts}
          picking={picking === number}
          onPick={() => onPick(picking === number ? undefined : number)}
          onChange={(next) => set(number, next)}
        />
      ))}
      <Select
        aria-label="A report tells of"
        value=""
        onChange={(event) => onChange([...rules, { facts: [event.target.value] }])}
      >
        <option value="">{rules.length === 0 ? 'A report tells of …' : 'Another rule: it tells of …'}</option>
        {facts.map((fact) => (
          <option key={fact} value={fact}>
            {SAID(fact)}
          </option>
        ))}
      </Select>
    </Panel>
  );
}

function RuleRow({
  rule,
  facts,
  picking,
  onPick,
  onChange,
}: {
  rule: Rule;
  facts: string[];
  picking: boolean;
  onPick: () => void;
  onChange: (rule: Rule | undefined) => void;
}) {
  const conditions = rule.when ?? [];
  const only = (when: Condition[]) => onChange(when.length === 0 ? { facts: rule.facts } : { ...rule, when });
  const said = rule.facts.map(SAID).join(' and ');
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <strong>{said}</strong>
      <Select
        aria-label={`Also tells of, beside ${said}`}
        value=""
        onChange={(event) => onChange({ ...rule, facts: [...rule.facts, event.target.value] })}
      >
        <option value="">and …</option>
        {facts
          .filter((fact) => !rule.facts.includes(fact))
          .map((fact) => (
            <option key={fact} value={fact}>
              {SAID(fact)}
            </option>
          ))}
      </Select>
      <span>{conditions.length === 0 ? 'always' : 'when'}</span>
      {conditions.map((condition, at) => (
        <span key={condition.path} className="flex flex-wrap items-center gap-1.5">
          {at > 0 && 'and'}
          <code title={condition.path}>{placeInWords(condition.path)}</code> is
          <Input
            className="w-44"
            aria-label={`What ${placeInWords(condition.path)} is`}
            value={condition.equals}
            onChange={(event) =>
              only(
                conditions.map((one) =>
                  one === condition ? { ...condition, equals: event.target.value } : one,
                ),
              )
            }
          />
          <TextButton
            aria-label={`Without ${placeInWords(condition.path)}`}
            onClick={() => only(conditions.filter((one) => one !== condition))}
          >
            ×
          </TextButton>
        </span>
      ))}
      <Button small aria-pressed={picking} onClick={onPick}>
        {picking ? 'Click a value in what came in …' : 'Only when …'}
      </Button>
      <TextButton onClick={() => onChange(undefined)} aria-label={`Leave out the rule for ${said}`}>
        leave out
      </TextButton>
    </div>
  );
}
