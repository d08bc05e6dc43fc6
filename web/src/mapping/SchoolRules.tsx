import { Link } from '@tanstack/react-router';
import { MakeTags } from './CourseRules';
import { DoorRules } from './DoorRules';
import type { SetThings, Shared } from './DraftMargin';
import { Rows } from './inputs';
import { drafted, lookup, type Ladder, type School, type TagName, type TagRole } from './things';
import { Check, Checkbox, Choices, Input, Panel } from '../ui/kit';

type Props = Omit<Shared, 'headline'> & { set: SetThings };

const ROLES: [role: TagRole, words: string, example: string][] = [
  [
    'bought',
    'bought it: put on by each purchase that opens the course, taken off by its refund',
    '{course}-bought',
  ],
  ['opens', 'gets the course: whoever has the tag', '{course}-open'],
  ['finished', 'finished the course', '{course}-finished'],
  ['refunded', 'gave it back: only the tag is made; a follow-up puts it on', '{course}-refunded'],
];

/** What holds for the whole school. */
export function SchoolRules(props: Props) {
  const { things, draft, set } = props;
  const now = lookup(things);
  const at = drafted(things, draft);
  const put = (key: keyof School, to: unknown) => set([[`school/${key}`, to, now(`school/${key}`)]]);
  const tiers = (at('school/tiers') ?? []) as string[];
  const ladders = (at('school/ladders') ?? []) as Ladder[];
  return (
    <article className="grid max-w-4xl gap-4">
      <p className="text-soft">
        <Link to="/mapping" search={{ view: 'catalogue' }}>
          The catalogue
        </Link>
      </p>
      <h2 className="text-2xl">Rules of the school</h2>
      <p className="text-soft">
        Times are counted in {things.school.zone}; prices are in {things.school.currency}.
      </p>
      <Panel>
        <Choices
          legend="Things open when an order is"
          value={(at('school/opensOn') ?? 'paid') as string}
          onChoose={(to) => put('opensOn', to)}
          choices={[
            ['placed', 'placed, paid or not'],
            ['paid', 'paid; an order of nothing counts as paid'],
            ['fulfilled', 'fulfilled, for schools that send everything by post'],
          ]}
        />
        <Rows
          legend="Tiers of courses, the lowest first"
          hint="A section has a tier; a cell can open a course up to one."
          addWords="Add a tier"
          rows={tiers.map((id) => ({ id }))}
          onChange={(rows) =>
            put(
              'tiers',
              rows.map((row) => row.id),
            )
          }
        />
        <Rows
          legend="Ladders of levels"
          hint="Of a ladder one holds one level at a time, the highest."
          addWords="Add a ladder"
          rows={ladders.map(({ id }) => ({ id }))}
          onChange={(rows) =>
            put(
              'ladders',
              rows.map(({ id }) => ladders.find((one) => one.id === id) ?? { id }),
            )
          }
        />
        {ladders.map((ladder) => (
          <Check key={ladder.id}>
            <Checkbox
              checked={ladder.higherIncludesLower === true}
              onChange={(event) =>
                put(
                  'ladders',
                  ladders.map((one) =>
                    one.id === ladder.id ? { ...one, higherIncludesLower: event.target.checked } : one,
                  ),
                )
              }
            />
            on {ladder.id}, a higher level has what the lower ones open too
          </Check>
        ))}
        <TagNames
          {...props}
          names={(at('school/tagNames') ?? []) as TagName[]}
          put={(to) => put('tagNames', to)}
        />
      </Panel>
      <section className="grid gap-2">
        <h3 className="text-xl">Where people go</h3>
        <p className="text-soft">
          What holds wherever a course, level, area or product says nothing itself. Each says it on its own
          page.
        </p>
        <DoorRules place="school" things={things} draft={draft} set={set} />
      </section>
    </article>
  );
}

function TagNames({ names, put, ...props }: Props & { names: TagName[]; put: (to: unknown) => void }) {
  return (
    <fieldset className="grid gap-1">
      <legend>How the tags of a course are called</legend>
      {ROLES.map(([role, words, example]) => {
        const name = names.find((one) => one.role === role)?.name;
        const others = names.filter((one) => one.role !== role);
        return (
          <Check as="div" key={role}>
            <Check>
              <Checkbox
                checked={name !== undefined}
                onChange={(event) =>
                  put(event.target.checked ? [...others, { role, name: example }] : others)
                }
              />
              <span className="min-w-0 flex-1">{words}</span>
            </Check>
            {name !== undefined && (
              <Input
                aria-label={`Name of the tag: ${role}`}
                maxLength={100}
                value={name}
                onChange={(event) => put([...others, { role, name: event.target.value }])}
              />
            )}
          </Check>
        );
      })}
      <p className="text-soft">
        <code>{'{course}'}</code> stands for the course’s id.
      </p>
      <MakeTags {...props} />
    </fieldset>
  );
}
