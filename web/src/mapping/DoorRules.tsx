import { useState } from 'react';
import { keepPreviousData } from '@tanstack/react-query';
import { api, type Schemas } from '../api/client';
import { MarkedWords } from '../ui/MarkedWords';
import { useSettled } from '../ui/settled';
import { asDraft } from './draft';
import type { SetThings, Shared } from './DraftMargin';
import { sortIn } from './paths';
import { drafted, lookup, without, type Door } from './things';
import {
  Check,
  Choices,
  CopyText,
  Fault,
  Field,
  Input,
  Panel,
  Select,
  TextArea,
  type Choice,
} from '../ui/kit';

type Props = Pick<Shared, 'things' | 'draft'> & {
  /** "school", or the path of a course, section, level, area or product. */
  place: string;
  set: SetThings;
};

type Answer = NonNullable<Door['visitor']>;
type Side = 'visitor' | 'without' | 'bought';

const SETTLED_MS = 300;
const LONGEST = 2000;

const SIDES: Record<Side, { legend: string; on: string; text: string; open: string }> = {
  visitor: {
    legend: 'Somebody who is not signed in',
    on: 'is sent straight to where it is sold, the cheapest way first',
    text: '{{title}} is for those who have it. If that is you, sign in.',
    open: '{{title}}, {{product}}, {{price}}, {{school}}',
  },
  without: {
    legend: 'Somebody signed in who does not have it',
    on: 'is sent straight to where it is sold, the cheapest way first',
    text: '{{title}} is not open for you.',
    open: '{{title}}, {{product}}, {{price}}, {{school}}',
  },
  bought: {
    legend: 'Somebody who has just bought it',
    on: 'is sent to the page that lists all they bought',
    text: 'Thank you. {{product}} opens {{opened}}.',
    open: '{{product}}, {{opened}}, {{school}}',
  },
};

function sidesOf(place: string): Side[] {
  if (place === 'school') return ['visitor', 'without', 'bought'];
  return sortIn(place) === 'product' ? ['bought'] : ['visitor', 'without'];
}

/** Where people go: what they meet while it is closed to them, after buying, after signing in. */
export function DoorRules({ place, things, draft, set }: Props) {
  const path = `door/${place}`;
  const was = lookup(things)(path);
  const door = (drafted(things, draft)(path) ?? { id: place }) as Door;
  const put = (to: Door) => set([[path, asKept(to), was]]);
  const wider = place === 'school' ? 'as it ships' : 'as the school says';
  const isCourse = place === 'school' || sortIn(place) === 'course';
  return (
    <Panel className="grid items-start gap-x-6 gap-y-4 lg:grid-cols-2">
      {sidesOf(place).map((side) => (
        <AnswerChoices
          key={side}
          side={side}
          wider={wider}
          answer={door[side]}
          onChange={(answer) => put(answer === undefined ? without(door, side) : { ...door, [side]: answer })}
        />
      ))}
      {(isCourse || sortIn(place) === 'level') && <LandingChoices door={door} wider={wider} put={put} />}
      {isCourse && (
        <Choices
          legend="The parts of the lowest tier are open to"
          value={door.openParts ?? ''}
          onChoose={(to) =>
            put(
              to === ''
                ? without(door, 'openParts')
                : { ...door, openParts: to as NonNullable<Door['openParts']> },
            )
          }
          choices={[
            ['', place === 'school' ? 'whoever has the course (as it ships)' : wider],
            ['everybody', 'everybody: a part to read before buying'],
            ['signed-in', 'whoever is signed in'],
            ...(place === 'school' ? [] : [['as-others', 'whoever has the course'] satisfies Choice]),
          ]}
        />
      )}
      <Met place={place} draft={draft} />
    </Panel>
  );
}

/** A door that says nothing is none. */
function asKept(door: Door): Door | null {
  return Object.keys(door).length > 1 ? door : null;
}

function kindOf(answer: Answer | undefined): string {
  if (answer === undefined) return '';
  if (answer.text !== undefined) return 'text';
  return answer.to === undefined ? 'on' : 'to';
}

function AnswerChoices({
  side,
  wider,
  answer,
  onChange,
}: {
  side: Side;
  wider: string;
  answer: Answer | undefined;
  onChange: (answer: Answer | undefined) => void;
}) {
  const { legend, on, text, open } = SIDES[side];
  const choose = (kind: string) =>
    onChange(
      kind === ''
        ? undefined
        : kind === 'text'
          ? { text }
          : kind === 'to'
            ? { to: 'https://' }
            : { on: true },
    );
  return (
    <Choices
      legend={legend}
      value={kindOf(answer)}
      onChoose={choose}
      choices={[
        ['', wider],
        [
          'text',
          'reads this',
          <div key="text" className="grid w-full gap-1">
            <TextArea
              rows={3}
              maxLength={LONGEST}
              aria-label={`What is read: ${legend.toLowerCase()}`}
              value={answer?.text ?? ''}
              onChange={(event) => onChange({ text: event.target.value })}
            />
            <p className="text-soft text-[0.92rem]">
              May leave open {open}. **Bold** and [links](https://…) as in letters; markup is shown as text.
            </p>
          </div>,
        ],
        ['on', on],
        [
          'to',
          'is sent to another page',
          <Input
            key="to"
            className="w-full"
            type="url"
            maxLength={LONGEST}
            aria-label={`Where they are sent: ${legend.toLowerCase()}`}
            value={answer?.to ?? ''}
            onChange={(event) => onChange({ to: event.target.value })}
          />,
        ],
      ]}
    />
  );
}

function LandingChoices({ door, wider, put }: { door: Door; wider: string; put: (door: Door) => void }) {
  const landing = door.signedIn;
  const choose = (to: string) =>
    put(
      to === '' ? without(door, 'signedIn') : { ...door, signedIn: { ...landing, wanted: to === 'wanted' } },
    );
  return (
    <div className="grid gap-2">
      <Choices
        legend="Somebody who signs in lands"
        value={landing === undefined ? '' : landing.wanted === false ? 'page' : 'wanted'}
        onChoose={choose}
        choices={[
          ['', wider],
          ['wanted', 'on the lesson they wanted, where they wanted one'],
          ['page', 'always on one page'],
        ]}
      />
      {landing !== undefined && (
        <Field label="That page (left empty: the course’s own, or what they have)">
          <Input
            type="url"
            maxLength={LONGEST}
            value={landing.to ?? ''}
            onChange={(event) =>
              put({
                ...door,
                signedIn:
                  event.target.value === '' ? without(landing, 'to') : { ...landing, to: event.target.value },
              })
            }
          />
        </Field>
      )}
    </div>
  );
}

/** What is met there were the draft published, with what it leaves to wider places. */
function Met({ place, draft }: { place: string; draft: Props['draft'] }) {
  const [wanted] = useSettled({ draft: asDraft(draft), place }, SETTLED_MS);
  const { data, error } = api.useQuery(
    'post',
    '/api/mapping/door',
    { body: wanted },
    { placeholderData: keepPreviousData, retry: false },
  );
  if (error !== null) return <Fault error={error} />;
  if (data === undefined) return null;
  return (
    <section
      aria-label="What is met"
      aria-live="polite"
      className="col-span-full grid gap-3 border-t border-line pt-3 lg:grid-cols-2"
    >
      {place === 'school' && (
        <p className="text-soft col-span-full">For example, at the first course that says nothing itself:</p>
      )}
      {data.visitor !== undefined && <Sign title="A visitor meets" sign={data.visitor} />}
      {data.without !== undefined && <Sign title="Signed in, without it, one meets" sign={data.without} />}
      {data.bought !== undefined && <AfterBuying bought={data.bought} />}
      {data.page !== undefined && (
        <div className="col-span-full">
          <CopyText label="Its door, for systems that can only send people on" text={data.page} />
        </div>
      )}
    </section>
  );
}

function Sign({ title, sign }: { title: string; sign: Schemas['SignMet'] }) {
  return (
    <div className="grid content-start gap-1">
      <h3 className="font-bold">{title}</h3>
      {sign.redirect !== undefined ? (
        <p>
          the page <code className="break-all">{sign.redirect}</code>
        </p>
      ) : (
        <p className="whitespace-pre-line">
          “<MarkedWords>{sign.text}</MarkedWords>”
        </p>
      )}
      {sign.redirect === undefined && (
        <p className="text-soft">
          {sign.ways.length === 0
            ? 'Nothing that opens it is for sale.'
            : sign.ways.map((way) => `${way.title}, ${way.price}`).join(' · ') + '.'}
          {sign.besides.length > 0 && ` Also ${sign.besides.join(', ')}.`}
        </p>
      )}
    </div>
  );
}

function AfterBuying({ bought }: { bought: Schemas['ThanksMet'] }) {
  return (
    <div className="grid content-start gap-1">
      <h3 className="font-bold">After buying, one meets</h3>
      {bought.redirect !== undefined && (
        <p>
          the page <code className="break-all">{bought.redirect}</code>
        </p>
      )}
      {bought.lists && <p>the page that lists all that was bought</p>}
      {bought.redirect === undefined && !bought.lists && (
        <p className="whitespace-pre-line">
          “<MarkedWords>{bought.text}</MarkedWords>”
        </p>
      )}
      {bought.button !== undefined && bought.redirect === undefined && (
        <p className="text-soft">with the button “{bought.button}”</p>
      )}
      <p className="text-soft">An order of several products leads to the page that lists them.</p>
    </div>
  );
}

/** Single lessons with a door of their own. */
export function LessonDoors(
  props: Omit<Props, 'place'> & { course: string; lessons: { id: string; title?: string }[] },
) {
  const { course, lessons, things, draft } = props;
  const [chosen, setChosen] = useState('');
  const at = drafted(things, draft);
  if (lessons.length === 0) return null;
  const own = lessons.filter((lesson) => at(`door/section/${course}/${lesson.id}`) !== null);
  return (
    <details>
      <summary>
        A lesson with a door of its own
        {own.length > 0 && `: ${own.map((lesson) => lesson.title ?? lesson.id).join(', ')}`}
      </summary>
      <Check className="my-2">
        The lesson
        <Select
          aria-label="The lesson with a door of its own"
          value={chosen}
          onChange={(event) => setChosen(event.target.value)}
        >
          <option value="">…</option>
          {lessons.map((lesson) => (
            <option key={lesson.id} value={lesson.id}>
              {lesson.title ?? lesson.id}
            </option>
          ))}
        </Select>
      </Check>
      {chosen !== '' && <DoorRules {...props} place={`section/${course}/${chosen}`} />}
    </details>
  );
}
