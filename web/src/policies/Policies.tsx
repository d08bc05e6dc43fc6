import { Link } from '@tanstack/react-router';
import { useTouch } from '../api/touch';
import type { ReactNode } from 'react';
import { z } from 'zod';
import { api, type Schemas } from '../api/client';
import { periodInWords } from '../ui/periods';
import { counted } from '../ui/words';
import {
  ActForm,
  Acts,
  Button,
  Chain,
  Choices,
  ConfirmButton,
  Fault,
  Headline,
  Margin,
  Panel,
  Period,
  Screen,
  Step,
  useActFields,
  Waiting,
  type Choice,
} from '../ui/kit';

type Policy = Schemas['SchoolPolicy'];
type Effects = Schemas['Effects'];

const USUALLY_LATE = 'P2D';
const LATE = ['P0D', 'P2D', 'P7D', 'P30D'];

const POLICY = z.object({
  guests: z.enum(['MAKE', 'HOLD']),
  unknownContacts: z.enum(['MAKE', 'HOLD', 'SKIP']),
  joining: z.enum(['ASK', 'SAME_VERIFIED_ADDRESS']),
  giftsKeptFor: z.string().optional(),
  late: z.string(),
  outwards: z.enum(['MAKE', 'HOLD', 'SKIP']),
  ownPage: z.boolean(),
  guestsProve: z.boolean(),
});

/** What the school does with people whom it does not know for certain, and what the mapping says that is much like it. */
export function Policies() {
  const page = api.useQuery('get', '/api/policies');
  const data = page.data;
  return (
    <Screen
      margin={
        data !== undefined && (
          <Margin label="What the mapping says">
            <InTheMapping effects={data.effects} />
          </Margin>
        )
      }
    >
      <Headline>
        <h1>Policies</h1>
        <p>what holds for everybody</p>
      </Headline>
      {page.error !== null && <Fault error={page.error} />}
      {data === undefined && page.error === null && <Waiting what="the policies" />}
      {data !== undefined && (
        <Form key={JSON.stringify(data.policies)} inForce={data.policies} effects={data.effects} />
      )}
    </Screen>
  );
}

function people(many: number): string {
  return counted(many, 'person', 'people');
}

function Form({ inForce, effects }: { inForce: Policy; effects: Effects }) {
  const touch = useTouch();
  const known = {
    giftsKeptFor: undefined,
    ...inForce,
    late: inForce.late ?? USUALLY_LATE,
    outwards: inForce.outwards ?? 'MAKE',
    ownPage: inForce.ownPage ?? true,
    guestsProve: inForce.guestsProve ?? false,
  };
  const form = useActFields<z.infer<typeof POLICY>>(POLICY, known);
  const { giftsKeptFor, ...others } = form.values;
  const late = others.late;
  const wanted: Policy = { ...others, ...(giftsKeptFor !== undefined && { giftsKeptFor }) };
  const change = api.useMutation('put', '/api/policies', { onSettled: () => touch('access') });
  const changed = form.isDirty;
  const submit = () => {
    if (changed && !change.isPending) change.mutate({ body: wanted });
  };
  return (
    <ActForm
      className="grid items-start gap-x-4 gap-y-1 2xl:grid-cols-2"
      aria-label="Policies"
      onConfirm={submit}
    >
      <Panel>
        <Choices
          legend="Somebody buys as a guest, without an account in the shop"
          value={wanted.guests}
          onChoose={(to) => form.set('guests', POLICY.shape.guests.parse(to))}
          choices={[
            ['MAKE', 'it opens what they bought; the systems make an account for their address'],
            ['HOLD', 'it waits on Today until somebody lets it in'],
          ]}
        />
        <Effect>
          {people(effects.guests)} who bought as a guest within a year {effects.guests === 1 ? 'is' : 'are'}{' '}
          in
          <WaitNow
            words={counted(effects.held.guests, 'order waits', 'orders wait')}
            many={effects.held.guests}
          />
          . A guest whose address is known already is that person. It is still better to have the shop make
          accounts.
        </Effect>
      </Panel>
      <Panel>
        <Choices
          legend="A tag, level or finished course of somebody nobody has heard of"
          value={wanted.unknownContacts}
          onChoose={(to) => form.set('unknownContacts', POLICY.shape.unknownContacts.parse(to))}
          choices={[
            ['MAKE', 'they become known'],
            ['HOLD', 'it waits on Today until somebody lets it in'],
            ['SKIP', 'it is left out; the journal says so'],
          ]}
        />
        <Effect>
          {people(effects.onlyContacts)} {effects.onlyContacts === 1 ? 'is' : 'are'} known from such reports
          alone
          <WaitNow
            words={counted(effects.held.unknown, 'report waits', 'reports wait')}
            many={effects.held.unknown}
          />
          .
        </Effect>
      </Panel>
      <Panel>
        <Choices
          legend="A tag, list or field for somebody who is no contact in the system that keeps contacts"
          value={wanted.outwards ?? 'MAKE'}
          onChoose={(to) => form.set('outwards', POLICY.shape.outwards.parse(to))}
          choices={[
            ['MAKE', 'they are made a contact there'],
            ['HOLD', 'it waits and is on Today until somebody makes the contact'],
            ['SKIP', 'it is left out there; the person’s page and the journal say so'],
          ]}
        />
        <Effect>
          What they bought opens elsewhere all the same. A follow-up’s next step waits with what waits here.
        </Effect>
      </Panel>
      <Panel>
        <Choices
          legend="A system knows somebody by another key, and has verified their address"
          value={wanted.joining}
          onChoose={(to) => form.set('joining', POLICY.shape.joining.parse(to))}
          choices={[
            ['ASK', 'they stay two until somebody joins them'],
            [
              'SAME_VERIFIED_ADDRESS',
              'they are joined; whoever was parted once is never joined by itself again',
            ],
          ]}
        />
        <NotJoined effects={effects} />
      </Panel>
      <Panel>
        <Choices
          legend="A gift that nobody takes up"
          value={wanted.giftsKeptFor === undefined ? 'EVER' : 'PERIOD'}
          onChoose={(to) => form.set('giftsKeptFor', to === 'PERIOD' ? 'P1Y' : undefined)}
          choices={[
            ['EVER', 'can be taken up without an end'],
            [
              'PERIOD',
              'can be taken up after its letter went out for',
              <Period key="period" {...form.picked('giftsKeptFor')} />,
            ],
          ]}
        />
        <Effect>Sent again, a letter can be used for the whole time anew.</Effect>
      </Panel>
      <Panel>
        <Choices
          legend="Something becomes known long after it happened"
          value={LATE.includes(late) ? late : 'OTHER'}
          onChoose={(to) => to !== 'OTHER' && form.set('late', to)}
          choices={[
            ['P0D', 'follow-ups write and tell nothing about what lies in the past at all'],
            ['P2D', 'they write about it up to 2 days later'],
            ['P7D', 'they write about it up to 7 days later'],
            ['P30D', 'they write about it up to 30 days later'],
            ...(LATE.includes(late)
              ? []
              : [['OTHER', `they write about it up to ${periodInWords(late)} later`] as Choice]),
          ]}
        />
        <Effect>What a follow-up gives, takes and sets, it does however late it is.</Effect>
      </Panel>
      <Panel>
        <Choices
          legend="A page of the learner’s own, by a link in letters"
          value={form.values.ownPage ? 'YES' : 'NO'}
          onChoose={(to) => form.set('ownPage', to === 'YES')}
          choices={[
            [
              'YES',
              'letters carry it: all that one has, courses to choose, places to give, orders, another address',
            ],
            ['NO', 'there is none; links that were sent lead nowhere'],
          ]}
        />
        <Effect>A link is good for 30 days. One person’s links are revoked on the person’s page.</Effect>
      </Panel>
      <Panel>
        <Choices
          legend="A guest whose order waits asks from the door page how to get in"
          value={form.values.guestsProve ? 'PROVE' : 'WAIT'}
          onChoose={(to) => form.set('guestsProve', to === 'PROVE')}
          choices={[
            ['WAIT', 'they are told that somebody at the school looks at it'],
            ['PROVE', 'the letter lets them prove the address, and the order is let in'],
          ]}
        />
        <Effect>It matters where orders of guests wait. The journal says who was let in so.</Effect>
      </Panel>
      {change.error !== null && <Fault error={change.error} />}
      <Acts>
        <ConfirmButton disabled={!changed || change.isPending}>
          {change.isPending ? 'Changing …' : 'Put in force'}
        </ConfirmButton>
        {changed && (
          <Button type="button" onClick={() => form.reset(known)}>
            Leave it
          </Button>
        )}
        <span className="text-soft" role="status">
          {changed ? 'It counts for what is reported from then on; what waits goes on waiting.' : 'In force.'}
        </span>
      </Acts>
    </ActForm>
  );
}

/** What waits because of a policy, if anything does. */
function WaitNow({ words, many }: { words: string; many: number }) {
  return many === 0 ? null : (
    <>
      ; <Link to="/held">{words}</Link> now
    </>
  );
}

function Effect({ children }: { children: ReactNode }) {
  return <p className="text-soft">{children}</p>;
}

function NotJoined({ effects }: { effects: Effects }) {
  const touch = useTouch();
  const join = api.useMutation('post', '/api/policies/join', {
    onSettled: () => touch('access'),
  });
  if (effects.sameCount === 0) {
    return <Effect>Nobody is known by two keys, as far as the systems say.</Effect>;
  }
  return (
    <>
      <Effect>
        {people(effects.sameCount)} {effects.sameCount === 1 ? 'is' : 'are'} known by two keys and not joined:{' '}
        {effects.same.map((pair) => `${pair.subject} is ${pair.address}`).join('; ')}
        {effects.sameCount > effects.same.length && ' …'}
      </Effect>
      {join.error !== null && <Fault error={join.error} />}
      <Acts>
        <Button type="button" disabled={join.isPending} onClick={() => join.mutate({})}>
          {join.isPending
            ? 'Joining …'
            : `Join ${effects.sameCount === 1 ? 'them' : `all ${effects.sameCount}`} now`}
        </Button>
      </Acts>
    </>
  );
}

const OPENS: Record<Effects['opening']['school'], string> = {
  PLACED: 'when it is placed',
  PAID: 'when it is paid',
  FULFILLED: 'when it is fulfilled',
};

const SEVERAL: Record<Effects['quantity'][number]['means'], string> = {
  ONCE: 'the same as one',
  LONGER: 'as many times the length',
  SEATS: 'seats for as many people',
};

function InTheMapping({ effects }: { effects: Effects }) {
  const { opening, quantity, grace } = effects;
  return (
    <section>
      <h2>In the mapping</h2>
      <p className="text-soft">
        These are changed in a draft, which says whom it touches before it is published.
      </p>
      <Chain>
        <Step tone="soft">
          <strong>An order opens {OPENS[opening.school]}</strong>
          <span>{people(opening.notOpened)} have an order that has not opened yet</span>
          {opening.others.map((other) => (
            <span key={other.product}>
              {other.title}: {OPENS[other.opensOn]}
            </span>
          ))}
          <Link to="/mapping" search={{ view: 'catalogue', thing: 'school' }}>
            Change it
          </Link>
        </Step>
        <Step tone="soft">
          <strong>More than one in the basket</strong>
          {quantity
            .filter((one) => one.products > 0)
            .map((one) => (
              <span key={one.means}>
                {counted(one.products, 'product', 'products')}: {SEVERAL[one.means]}
                {one.people > 0 && `; ${people(one.people)} bought more than one`}
              </span>
            ))}
          <Link to="/mapping" search={{ view: 'catalogue' }}>
            Change it for a product
          </Link>
        </Step>
        <Step tone="soft">
          <strong>Days of grace</strong>
          <span>
            {counted(grace.products, 'product is', 'products are')} paid again and again or in parts
            {grace.withoutGrace > 0 && `; ${grace.withoutGrace} of them close on the day`}
          </span>
          {grace.counted ? (
            <span>
              {people(grace.inGrace)} in grace now, {grace.suspended} closed until they pay
            </span>
          ) : (
            <span>too many people to count who is in grace</span>
          )}
          <Link to="/mapping" search={{ view: 'catalogue' }}>
            Change it for a product
          </Link>
        </Step>
      </Chain>
    </section>
  );
}
