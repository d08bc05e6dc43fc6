import { Count, Rows } from './inputs';
import { without, type Billing, type OpensOn, type Product } from './things';
import { billingOf, isPaidAs, planInWords } from './plans';
import type { Schemas } from '../api/client';
import { Button, Check, Checkbox, Choices, Notice, Panel, Period } from '../ui/kit';

type Plan = Schemas['Plan'];

interface Props {
  product: Product;
  /** What its shop says of how it is paid for. */
  plan: Plan | undefined;
  onChange: (product: Product) => void;
}

const BILLINGS: Record<Billing['kind'], Billing> = {
  once: { kind: 'once' },
  free: { kind: 'free' },
  instalments: { kind: 'instalments', count: 12, every: 'P1M', grace: 'P7D' },
  recurring: { kind: 'recurring', every: 'P1M', grace: 'P7D' },
};

/** What the school says of a product, whatever shop sells it. */
export function ProductRules({ product, plan, onChange }: Props) {
  const billing = product.billing ?? BILLINGS.once;
  const pay = (part: Partial<Billing>) => onChange({ ...product, billing: { ...billing, ...part } });
  return (
    <Panel className="grid items-start gap-x-6 gap-y-4 sm:grid-cols-2 xl:grid-cols-3">
      {plan !== undefined && !isPaidAs(billing, plan) && (
        <Notice className="col-span-full flex flex-wrap items-center gap-x-4 gap-y-2">
          <span>The shop says: {planInWords(plan)}. The mapping says something else.</span>
          <Button small onClick={() => onChange({ ...product, billing: billingOf(plan) })}>
            Take over what the shop says
          </Button>
        </Notice>
      )}
      <div className="grid gap-3">
        <Choices
          legend="How is it paid?"
          value={billing.kind}
          onChoose={(kind) => onChange({ ...product, billing: BILLINGS[kind as Billing['kind']] })}
          choices={[
            ['once', 'at once'],
            ['free', 'it is free'],
            [
              'instalments',
              'in instalments',
              <Check as="span" key="instalments">
                <Count label="Instalments" value={billing.count ?? 1} onChange={(count) => pay({ count })} />
                of them, one every
                <Period value={billing.every} onChange={(every) => pay({ every })} />
              </Check>,
            ],
            [
              'recurring',
              'again and again',
              <Check as="span" key="recurring">
                every
                <Period value={billing.every} onChange={(every) => pay({ every })} />
              </Check>,
            ],
          ]}
        />
        {(billing.kind === 'instalments' || billing.kind === 'recurring') && (
          <>
            <Grace
              words="A payment that does not come is waited for"
              value={billing.grace}
              onChange={(grace) => pay({ grace })}
            />
            {billing.kind === 'recurring' && (
              <>
                <Grace
                  words="After a trial it is waited for"
                  value={billing.trialGrace}
                  onChange={(trialGrace) => pay({ trialGrace })}
                />
                <Check>
                  <Checkbox
                    checked={billing.cycles !== undefined}
                    onChange={(event) => {
                      const rest = without(billing, 'cycles', 'afterLast');
                      onChange({
                        ...product,
                        billing: event.target.checked ? { ...rest, cycles: 12, afterLast: 'end' } : rest,
                      });
                    }}
                  />
                  it stops being charged after
                  {billing.cycles === undefined ? (
                    ' some periods'
                  ) : (
                    <>
                      <Count label="Periods" value={billing.cycles} onChange={(cycles) => pay({ cycles })} />
                      paid periods
                    </>
                  )}
                </Check>
                {billing.cycles !== undefined && (
                  <Choices
                    legend="And then"
                    value={billing.afterLast ?? 'end'}
                    onChoose={(afterLast) => pay({ afterLast: afterLast as 'end' | 'keep' })}
                    choices={[
                      ['end', 'it ends'],
                      ['keep', 'it is owned for good'],
                    ]}
                  />
                )}
              </>
            )}
          </>
        )}
      </div>
      <Choices
        legend="What it opens opens when its order is"
        value={product.opensOn ?? 'school'}
        onChoose={(moment) => {
          const rest = without(product, 'opensOn');
          onChange(moment === 'school' ? rest : { ...rest, opensOn: moment as OpensOn });
        }}
        choices={[
          ['school', 'as the school says'],
          ['placed', 'placed'],
          ['paid', 'paid'],
          ['fulfilled', 'fulfilled'],
        ]}
      />
      <div className="grid gap-4">
        <Choices
          legend="Two in the basket are"
          value={product.quantity ?? 'once'}
          onChoose={(quantity) => onChange({ ...product, quantity: quantity as 'once' | 'longer' | 'seats' })}
          choices={[
            ['once', 'no more than one'],
            ['longer', 'twice the time'],
            ['seats', 'two seats, one to give on'],
          ]}
        />
        <Rows
          legend="Options"
          addWords="Add an option"
          rows={product.options ?? []}
          onChange={(options) => onChange({ ...product, options })}
        />
      </div>
    </Panel>
  );
}

function Grace({
  words,
  value,
  onChange,
}: {
  words: string;
  value: string | undefined;
  onChange: (period: string) => void;
}) {
  const none = value === undefined || value === 'P0D';
  return (
    <Check as="div">
      <Check>
        <Checkbox checked={!none} onChange={(event) => onChange(event.target.checked ? 'P7D' : 'P0D')} />
        {words}
      </Check>
      {!none && <Period value={value} onChange={onChange} />}
    </Check>
  );
}
