import type { Rule } from './matching';
import { Input, Panel, Select, TextButton } from '../ui/kit';

interface Props {
  rules: Rule[];
  facts: string[];
  onChange: (rules: Rule[]) => void;
}

const SAID = (fact: string) => fact.replace('.', ' ').replaceAll('-', ' ');

/** When a report tells of what; the first rule that fits counts. */
export function Rules({ rules, facts, onChange }: Props) {
  const set = (number: number, rule: Rule | undefined) =>
    onChange(
      rule === undefined
        ? rules.filter((_, other) => other !== number)
        : rules.map((one, other) => (other === number ? rule : one)),
    );
  return (
    <Panel as="div">
      {rules.map((rule, number) => (
        <RuleRow key={number} rule={rule} facts={facts} onChange={(next) => set(number, next)} />
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
  onChange,
}: {
  rule: Rule;
  facts: string[];
  onChange: (rule: Rule | undefined) => void;
}) {
  const condition = rule.when?.[0];
  const others = rule.when?.slice(1) ?? [];
  const when = (path: string, equals: string) =>
    onChange(
      path === '' && equals === '' && others.length === 0
        ? { facts: rule.facts }
        : { ...rule, when: [{ path, equals }, ...others] },
    );
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <strong>{rule.facts.map(SAID).join(' and ')}</strong>
      <Select
        aria-label={`Also tells of, beside ${rule.facts.map(SAID).join(' and ')}`}
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
      <span>when</span>
      <Input
        className="font-code text-2xs"
        aria-label="where, as a JSONPath"
        placeholder="always"
        value={condition?.path ?? ''}
        onChange={(event) => when(event.target.value, condition?.equals ?? '')}
      />
      <span>is</span>
      <Input
        aria-label="what it is"
        value={condition?.equals ?? ''}
        onChange={(event) => when(condition?.path ?? '', event.target.value)}
      />
      {others.length > 0 && <span className="text-soft">and {others.length} more</span>}
      <TextButton
        onClick={() => onChange(undefined)}
        aria-label={`Leave out the rule for ${rule.facts.map(SAID).join(' and ')}`}
      >
        leave out
      </TextButton>
    </div>
  );
}
