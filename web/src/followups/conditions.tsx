import { without } from '../mapping/things';
import { Button, Input, Select } from '../ui/kit';
import { kindOfCondition, targets, type Condition, type ConditionKind } from './model';
import { SoldEditor, TargetsEditor, type Known } from './parts';

const CONDITION_WORDS: Record<ConditionKind, string> = {
  has: 'they have',
  had: 'they had, and no longer have',
  bought: 'they bought before',
  amount: 'the order comes to at least',
  channel: 'it was sold',
  field: 'a field says',
  any: 'one of several',
};

function firstOf(kind: ConditionKind): Condition {
  switch (kind) {
    case 'has':
      return { has: [] };
    case 'had':
      return { had: [] };
    case 'bought':
      return { bought: { of: {}, atMost: 0 } };
    case 'amount':
      return { amount: { atLeast: '300.00' } };
    case 'channel':
      return { channel: 'shop' };
    case 'field':
      return { field: { name: '', is: '' } };
    case 'any':
      return { any: [{ has: [] }, { has: [] }] };
  }
}

/** Conditions of which all must hold. */
export function ConditionsEditor({
  conditions,
  known,
  onChange,
  together = 'and',
}: {
  conditions: Condition[];
  known: Known;
  onChange: (conditions: Condition[]) => void;
  together?: 'and' | 'or';
}) {
  const set = (at: number, condition: Condition) =>
    onChange(conditions.map((one, index) => (index === at ? condition : one)));
  return (
    <div className="grid gap-2">
      <ul className="grid gap-2">
        {conditions.map((condition, at) => (
          // conditions have no ids; they are known by their place
          <li key={at} className="grid gap-2 border-l-[3px] border-line pl-3">
            <ConditionEditor condition={condition} known={known} onChange={(next) => set(at, next)} />
            <Button
              small
              type="button"
              className="justify-self-start"
              onClick={() => onChange(conditions.filter((_, index) => index !== at))}
            >
              Take this out
            </Button>
          </li>
        ))}
      </ul>
      <Button
        small
        type="button"
        className="justify-self-start"
        onClick={() => onChange([...conditions, { has: [] }])}
      >
        {conditions.length === 0 ? 'Add a condition' : `${together} …`}
      </Button>
    </div>
  );
}

function ConditionEditor({
  condition,
  known,
  onChange,
}: {
  condition: Condition;
  known: Known;
  onChange: (condition: Condition) => void;
}) {
  const negated = condition.not !== undefined;
  const inner = condition.not ?? condition;
  const kind = kindOfCondition(inner);
  const put = (next: Condition) => onChange(negated ? { not: next } : next);
  return (
    <>
      <div className="flex flex-wrap items-center gap-2">
        <Select
          aria-label="Whether"
          value={negated ? 'not' : 'is'}
          onChange={(event) => onChange(event.target.value === 'not' ? { not: inner } : inner)}
        >
          <option value="is">it is so:</option>
          <option value="not">it is not so:</option>
        </Select>
        <Select
          aria-label="What is asked"
          value={kind}
          onChange={(event) => put(firstOf(event.target.value as ConditionKind))}
        >
          {Object.entries(CONDITION_WORDS).map(([one, words]) => (
            <option key={one} value={one}>
              {words}
            </option>
          ))}
        </Select>
      </div>
      <ConditionParts condition={inner} known={known} onChange={put} />
    </>
  );
}

function ConditionParts({
  condition,
  known,
  onChange,
}: {
  condition: Condition;
  known: Known;
  onChange: (condition: Condition) => void;
}) {
  const kind = kindOfCondition(condition);
  switch (kind) {
    case 'has':
    case 'had':
      return (
        <TargetsEditor
          chosen={targets(condition[kind])}
          known={known}
          onChange={(chosen) => onChange({ [kind]: chosen })}
        />
      );
    case 'bought': {
      const bought = condition.bought ?? { of: {}, atMost: 0 };
      return (
        <>
          <SoldEditor
            sold={bought.of}
            known={known}
            onChange={(of) => onChange({ bought: { ...bought, of } })}
          />
          <div className="flex flex-wrap items-center gap-2">
            <HowOften bought={bought} onChange={(next) => onChange({ bought: next })} />
            <Select
              aria-label="What counts as bought"
              value={bought.counts ?? 'paid'}
              onChange={(event) => {
                const counts = event.target.value as 'placed' | 'paid' | 'kept';
                const rest = without(bought, 'counts');
                onChange({ bought: counts === 'paid' ? rest : { ...rest, counts } });
              }}
            >
              <option value="placed">ordered, paid or not</option>
              <option value="paid">paid</option>
              <option value="kept">paid and not given back</option>
            </Select>
          </div>
          <p className="text-soft">The order at hand does not count, nor what was bought after it.</p>
        </>
      );
    }
    case 'amount':
      return (
        <span className="flex items-center gap-2">
          <Input
            aria-label="Amount"
            className="w-28"
            inputMode="decimal"
            value={condition.amount?.atLeast ?? ''}
            onChange={(event) => onChange({ amount: { atLeast: event.target.value } })}
          />
          {known.names.currency}
        </span>
      );
    case 'channel':
      return (
        <Select
          aria-label="Where it was sold"
          value={condition.channel}
          onChange={(event) => onChange({ channel: event.target.value as 'shop' | 'hand' })}
        >
          <option value="shop">in a shop</option>
          <option value="hand">by hand</option>
        </Select>
      );
    case 'field':
      return (
        <span className="flex flex-wrap items-center gap-2">
          <Input
            aria-label="Field"
            placeholder="field"
            className="w-36"
            value={condition.field?.name ?? ''}
            onChange={(event) =>
              onChange({ field: { name: event.target.value, is: condition.field?.is ?? '' } })
            }
          />
          says
          <Input
            aria-label="What it says"
            className="w-48"
            value={condition.field?.is ?? ''}
            onChange={(event) =>
              onChange({ field: { name: condition.field?.name ?? '', is: event.target.value } })
            }
          />
        </span>
      );
    case 'any':
      return (
        <ConditionsEditor
          conditions={condition.any ?? []}
          known={known}
          together="or"
          onChange={(any) => onChange({ any })}
        />
      );
  }
}

const MANY = { none: 'none of it', some: 'at least so often', most: 'at most so often' };

function HowOften({
  bought,
  onChange,
}: {
  bought: NonNullable<Condition['bought']>;
  onChange: (bought: NonNullable<Condition['bought']>) => void;
}) {
  const { atLeast, atMost, ...rest } = bought;
  const kind = atMost === 0 ? 'none' : atLeast !== undefined ? 'some' : 'most';
  const number = (value: string) => Math.max(0, Math.min(1_000_000, Math.trunc(Number(value)) || 0));
  return (
    <>
      <Select
        aria-label="How often"
        value={kind}
        onChange={(event) =>
          onChange(
            event.target.value === 'none'
              ? { ...rest, atMost: 0 }
              : event.target.value === 'some'
                ? { ...rest, atLeast: 1 }
                : { ...rest, atMost: 1 },
          )
        }
      >
        {Object.entries(MANY).map(([one, words]) => (
          <option key={one} value={one}>
            {words}
          </option>
        ))}
      </Select>
      {kind !== 'none' && (
        <Input
          type="number"
          aria-label="Times"
          className="w-20"
          min={kind === 'some' ? 0 : 1}
          value={kind === 'some' ? atLeast : atMost}
          onChange={(event) =>
            onChange(
              kind === 'some'
                ? { ...rest, atLeast: number(event.target.value) }
                : { ...rest, atMost: Math.max(1, number(event.target.value)) },
            )
          }
        />
      )}
    </>
  );
}
