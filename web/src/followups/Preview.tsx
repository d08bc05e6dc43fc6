import { Link, useNavigate } from '@tanstack/react-router';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { client, read, type Schemas } from '../api/client';
import { PersonFinder } from '../desk/PersonFinder';
import { asDraft, type Draft } from '../mapping/draft';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { Letter } from './Letter';
import { useSettled } from '../ui/settled';
import { Button, Chain, Fault, FieldFrame, Input, Stat, Step, TextButton } from '../ui/kit';
import { counted } from '../ui/words';

const SETTLED_MS = 400;

const KINDS: Record<string, [one: string, many: string]> = {
  give: ['thing given', 'things given'],
  take: ['thing taken away', 'things taken away'],
  set: ['field set', 'fields set'],
  write: ['letter', 'letters'],
  tell: ['message to the team', 'messages to the team'],
};

const OUTCOMES: Record<Schemas['PassedOver']['outcome'], string> = {
  SERVED: '',
  LONG_PAST: 'it was brought in as long past',
  OFF: 'it is off',
  BEFORE_SINCE: 'it was before it began',
  STANDS: 'it was decided before',
  SERVED_BEFORE: 'it served them before',
  NO_ROW: 'the table has no row for it',
  NOT_SO: '',
};

interface Props {
  draft: Draft;
  followup: string;
  person: number | undefined;
  /** Of which order it is looked at; none = the last occasion. */
  order: string | undefined;
}

/** What it would have done, for everybody lately and for one person with the words they would read. */
export function Preview({ draft, followup, person, order }: Props) {
  const [wanted, settled] = useSettled({ draft: asDraft(draft), followup }, SETTLED_MS);
  const lately = useQuery({
    queryKey: ['followup-lately', wanted],
    queryFn: ({ signal }) => read(client.POST('/api/mapping/followups/lately', { body: wanted, signal })),
    placeholderData: (previous) => previous,
    staleTime: 10_000,
    retry: false,
  });
  const counting = !settled || lately.isFetching;
  return (
    <section aria-label="What it would have done" aria-busy={counting}>
      <div className="mb-2 flex items-baseline justify-between gap-3">
        <h2 className="m-0">In the last 90 days it would have</h2>
        {counting && <span className="text-soft">counting …</span>}
      </div>
      {lately.error !== null && !counting && <Fault error={lately.error} />}
      {lately.data !== undefined && lately.error === null && <Figures lately={lately.data} />}
      <ForSomebody
        wanted={wanted}
        person={person ?? lately.data?.served[0]?.who.person}
        chosen={person !== undefined}
        followup={followup}
        order={order}
      />
      {lately.data !== undefined && lately.error === null && <Others lately={lately.data} />}
    </section>
  );
}

function Figures({ lately }: { lately: Schemas['FollowupPreview'] }) {
  const kinds = new Map<string, number>();
  for (const step of lately.steps) kinds.set(step.kind, (kinds.get(step.kind) ?? 0) + step.times);
  return (
    <div className="grid grid-cols-3 gap-2" aria-live="polite">
      <Stat
        figure={lately.people}
        tone={lately.people > 0 ? 'good' : undefined}
        words={lately.people === 1 ? 'person served' : 'people served'}
      />
      {[...kinds].map(([kind, times]) => (
        <Stat key={kind} figure={times} words={KINDS[kind]?.[times === 1 ? 0 : 1] ?? kind} />
      ))}
    </div>
  );
}

function ForSomebody({
  wanted,
  person,
  chosen,
  followup,
  order,
}: {
  wanted: { draft: Schemas['Draft']; followup: string };
  person: number | undefined;
  chosen: boolean;
  followup: string;
  order: string | undefined;
}) {
  const { zone } = useSession();
  const navigate = useNavigate();
  const [missing, setMissing] = useState<string>();
  const one = useQuery({
    queryKey: ['followup-for-one', wanted, person],
    queryFn: ({ signal }) =>
      read(
        client.POST('/api/mapping/followups/for-one', { body: { ...wanted, person: person ?? 0 }, signal }),
      ),
    enabled: person !== undefined,
    placeholderData: (previous) => previous,
    retry: false,
  });
  const choose = async (key: string) => {
    const { data } = await client.GET('/api/people', { params: { query: { q: key, sort: 'NAME' } } });
    const found = data?.people.find((each) => each.key === key);
    if (found !== undefined)
      await navigate({ to: '/followups', search: { which: followup, person: found.id } });
  };
  const findOrder = async (words: string) => {
    setMissing(undefined);
    const { data } = await client.GET('/api/orders', { params: { query: { q: words } } });
    const found = data?.orders.find((each) => each.id.toLowerCase() === words.toLowerCase());
    if (found === undefined) setMissing(words);
    else
      await navigate({
        to: '/followups',
        search: { which: followup, person: found.person, order: found.id },
      });
  };
  const of = (occasion: string) =>
    order === undefined || occasion === `order/${order}` || occasion.startsWith(`order/${order}/`);
  const all = (one.data?.served ?? []).filter((each) => order === undefined || each.order === order);
  const passed = (one.data?.passed ?? []).filter((each) => of(each.occasion));
  const served = all[0];
  return (
    <div className="mt-4">
      {one.data !== undefined && (
        <h2 className="mb-1">
          For{' '}
          {one.data.who.person === undefined ? (
            one.data.who.name
          ) : (
            <Link to="/people/$id" params={{ id: String(one.data.who.person) }}>
              {one.data.who.name}
            </Link>
          )}
        </h2>
      )}
      {one.error !== null && person !== undefined && <Fault error={one.error} />}
      {served !== undefined && (
        <>
          <p className="text-soft">
            {shownTime(served.moment, zone)}
            {served.about !== '' && ` · ${served.about}`}
            {served.order !== undefined && ` · order ${served.order}`}
          </p>
          <Chain>
            {served.questions.map((question, at) => (
              <Step key={`q${at}`} tone={question.holds ? 'good' : 'soft'}>
                {question.answers.join('; ')}
              </Step>
            ))}
            {served.does.map((doing, at) => (
              <Step key={`d${at}`} tone="good">
                <span>
                  <span className="text-soft">{shownTime(doing.at, zone)}</span> {doing.does}
                </span>
                {doing.text !== undefined && <Letter letter={doing} wanted={wanted} person={person} />}
              </Step>
            ))}
            {served.waitsUntil !== undefined && (
              <Step tone="lamp">It would go on {shownTime(served.waitsUntil, zone)}.</Step>
            )}
          </Chain>
          {all.length > 1 && (
            <p className="text-soft">and {counted(all.length - 1, 'time', 'times')} before.</p>
          )}
        </>
      )}
      {chosen && one.data !== undefined && served === undefined && (
        <p>
          It would have done nothing for {order === undefined ? 'them' : `order ${order}`}:{' '}
          {passed.length === 0
            ? `what it waits for never happened ${order === undefined ? 'to them' : 'with it'}.`
            : `${passed[0]?.answers.join('; ') || OUTCOMES[passed[0]?.outcome ?? 'NOT_SO']}.`}
        </p>
      )}
      <div className="mt-2">
        <h3 className="mb-1">Try it on somebody</h3>
        <PersonFinder label="Try it on somebody" onChoose={(somebody) => void choose(somebody.key)} />
        <form
          className="mt-2 flex items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            const words = new FormData(event.currentTarget).get('order');
            if (typeof words === 'string' && words.trim() !== '') void findOrder(words.trim());
          }}
        >
          <FieldFrame
            label="Or on an order"
            fault={missing === undefined ? undefined : `There is no order ${missing}.`}
          >
            {(tied) => <Input name="order" placeholder="Its number" defaultValue={order ?? ''} {...tied} />}
          </FieldFrame>
          <Button small>Try</Button>
        </form>
      </div>
      {chosen && (
        <TextButton onClick={() => void navigate({ to: '/followups', search: { which: followup } })}>
          The last who fits
        </TextButton>
      )}
    </div>
  );
}

function Others({ lately }: { lately: Schemas['FollowupPreview'] }) {
  return (
    <div className="mt-4">
      {lately.passed.length > 0 && (
        <>
          <h3>For whom it would have done nothing</h3>
          <ul className="grid gap-1.5 text-soft">
            {lately.passed.map((one) => (
              <li key={`${one.outcome} ${one.why}`}>
                <strong className="text-base-content">{counted(one.people, 'person', 'people')}</strong>:{' '}
                {one.why === '' ? OUTCOMES[one.outcome] : `not so that ${one.why}`} (
                {one.some.map((somebody) => somebody.name).join(', ')}
                {one.people > one.some.length && ' …'})
              </li>
            ))}
          </ul>
        </>
      )}
      {lately.past.people > 0 && (
        <div className="mt-3 text-soft">
          <p>
            If what was before counted as well, it would serve{' '}
            <strong className="text-base-content">{counted(lately.past.people, 'person', 'people')}</strong>{' '}
            at once. Publishing asks.
          </p>
          <details>
            <summary className="cursor-pointer">Who they are</summary>
            <ul className="mt-1 grid gap-1">
              {lately.past.some.map((one) => (
                <li key={one.address}>
                  {one.person === undefined ? (
                    one.name
                  ) : (
                    <Link to="/people/$id" params={{ id: String(one.person) }}>
                      {one.name}
                    </Link>
                  )}
                </li>
              ))}
              {lately.past.people > lately.past.some.length && (
                <li>and {lately.past.people - lately.past.some.length} more</li>
              )}
            </ul>
          </details>
        </div>
      )}
    </div>
  );
}
