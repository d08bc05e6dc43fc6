import { z } from 'zod';
import type { Schemas } from '../api/client';
import { ActPanel } from '../desk/ActPanel';
import { PersonChoice } from '../desk/PersonChoice';
import type { Somebody } from '../desk/somebody';
import { TargetFinder } from '../desk/TargetFinder';
import type { Sheet } from '../desk/useAct';
import { counted } from '../ui/words';
import { Acts, Check, Checkbox, Choices, Field, Period, Select, TextButton, useActFields } from '../ui/kit';

/** What is to be done about a person. */
export type PersonDeed =
  | { kind: 'GIVE' | 'JOIN' | 'MOVE' | 'PART' | 'ERASE' }
  | {
      kind:
        'EXTEND' | 'END_GRANT' | 'CHOOSE' | 'RELEASE' | 'END_SUBSCRIPTION' | 'END_OUTSIDE' | 'CHANGE_LEVEL';
      id: string;
      title: string;
    };

interface Props {
  person: Schemas['PersonShown'];
  deed: PersonDeed;
  onEnd: () => void;
}

/** One act about a person in the margin, with its form and what would follow. */
export function PersonAct({ person, deed, onEnd }: Props) {
  const panel = { onDone: onEnd, onCancel: onEnd };
  switch (deed.kind) {
    case 'GIVE':
      return <Give person={person} onEnd={onEnd} />;
    case 'EXTEND':
      return <Extend person={person} target={deed.id} title={deed.title} onEnd={onEnd} />;
    case 'JOIN':
    case 'MOVE':
      return <Join person={person} moves={deed.kind === 'MOVE'} onEnd={onEnd} />;
    case 'ERASE':
      return <Erase person={person} onEnd={onEnd} />;
    case 'PART':
      return (
        <ActPanel
          {...panel}
          title={`Part from ${person.joinedInto?.name ?? ''}`}
          confirm="Part them"
          sheet={{ kind: 'PART', person: person.key }}
        />
      );
    case 'END_GRANT':
      return (
        <ActPanel
          {...panel}
          title={`End ${deed.title}`}
          confirm="End it now"
          sheet={{ kind: 'END_GRANT', person: person.key, thing: deed.id }}
        />
      );
    case 'CHOOSE':
      return (
        <ActPanel
          {...panel}
          title={`Choose ${deed.title}`}
          confirm="Choose it"
          sheet={{ kind: 'CHOOSE', person: person.key, thing: deed.id }}
        />
      );
    case 'RELEASE':
      return (
        <ActPanel
          {...panel}
          title={`Return ${deed.title}`}
          confirm="Return it"
          sheet={{ kind: 'RELEASE', person: person.key, thing: deed.id }}
        />
      );
    case 'END_SUBSCRIPTION':
      return <EndSubscription person={person} id={deed.id} title={deed.title} onEnd={onEnd} />;
    case 'CHANGE_LEVEL':
      return <ChangeLevel person={person} from={deed.id} title={deed.title} onEnd={onEnd} />;
    case 'END_OUTSIDE': {
      const [sort, ...rest] = deed.id.split('/');
      return (
        <ActPanel
          {...panel}
          title={`Take back ${deed.title}`}
          confirm="Take it back"
          sheet={{
            kind: sort === 'level' ? 'END_LEVEL' : 'REMOVE_TAG',
            person: person.key,
            thing: rest.join('/'),
          }}
        />
      );
    }
  }
}

interface FormProps {
  person: Props['person'];
  onEnd: () => void;
}

const REASON = z.string().trim().min(1, 'Say why.').max(500);

const SURE = z.object({ key: z.string().max(320) });

/** Cannot be taken back, so whoever does it writes whom they mean. */
function Erase({ person, onEnd }: FormProps) {
  const form = useActFields(SURE, { key: '' });
  return (
    <ActPanel
      title={`Erase ${person.name}`}
      confirm="Erase for good"
      sheet={
        form.values.key.trim().toLowerCase() === person.key.toLowerCase()
          ? { kind: 'ERASE', person: person.key }
          : undefined
      }
      onDone={onEnd}
      onCancel={onEnd}
    >
      <p className="text-soft">
        First everything is closed in all systems. Then the name, the addresses, notes, letters and reports
        go; orders and payments stay for the books, without saying whose they were. What others were given
        stays theirs. It cannot be taken back.
      </p>
      <p className="text-soft">
        The empty accounts in the systems stay: whoever runs them deletes them there. Who orders again later
        is somebody new.
      </p>
      <Field label={`Write ${person.key}`} maxLength={320} {...form.field('key')} />
    </ActPanel>
  );
}

const GIFT = z.object({
  chosen: z.array(z.custom<Schemas['OfferedTarget']>()).min(1),
  tier: z.string(),
  limited: z.boolean(),
  length: z.string(),
  reason: REASON,
});

function Give({ person, onEnd }: FormProps) {
  const form = useActFields(GIFT, { chosen: [], tier: '', limited: true, length: 'P1Y', reason: '' });
  const { filled, values } = form;
  const { chosen } = values;
  const choose = form.picked('chosen').onChange;
  const tiers = chosen.length === 1 ? (chosen[0]?.tiers ?? []) : [];
  const sheet: Sheet | undefined = filled && {
    kind: 'GIVE',
    person: person.key,
    to: chosen.map((one) =>
      filled.tier !== '' && tiers.includes(filled.tier) ? `${one.target}@${filled.tier}` : one.target,
    ),
    ...(filled.limited && { length: filled.length }),
    reason: filled.reason,
  };
  return (
    <ActPanel title="Give access" confirm="Give it" sheet={sheet} onDone={onEnd} onCancel={onEnd}>
      <p className="text-soft">
        The bare thing, without a product: the shop learns nothing of it. To give all that a product opens,
        enter an order free of charge.
      </p>
      {chosen.map((one) => (
        <p key={one.target} className="rounded-field border border-line px-3 py-1.5 wrap-anywhere">
          <strong>{one.title}</strong> <span className="text-soft">{one.sort}</span>{' '}
          <TextButton
            type="button"
            onClick={() => choose(chosen.filter((other) => other.target !== one.target))}
          >
            take out
          </TextButton>
        </p>
      ))}
      <TargetFinder
        label="What to give"
        placeholder="Course, area, group, download …"
        onChoose={(target) => {
          if (!chosen.some((one) => one.target === target.target)) choose([...chosen, target]);
        }}
      />
      {tiers.length > 0 && (
        <label className="flex flex-wrap items-center gap-2">
          <span>How much of it</span>
          <Select {...form.tick('tier')}>
            <option value="">all of it</option>
            {tiers.map((one) => (
              <option key={one} value={one}>
                up to {one}
              </option>
            ))}
          </Select>
        </label>
      )}
      <Choices
        legend="For how long"
        value={values.limited ? 'period' : 'always'}
        choices={[
          ['period', 'for', <Period key="period" {...form.picked('length')} />],
          ['always', 'until somebody ends it'],
        ]}
        onChoose={(choice) => form.set('limited', choice === 'period')}
      />
      <Field label="Why" maxLength={500} {...form.field('reason')} />
    </ActPanel>
  );
}

const LONGER = z.object({ length: z.string(), reason: REASON });

function Extend({ person, target, title, onEnd }: FormProps & { target: string; title: string }) {
  const form = useActFields(LONGER, { length: 'P1M', reason: '' });
  return (
    <ActPanel
      title={`Keep ${title} open for longer`}
      confirm="Keep it open"
      sheet={form.filled && { kind: 'EXTEND', person: person.key, thing: target, ...form.filled }}
      onDone={onEnd}
      onCancel={onEnd}
    >
      <Acts className="items-center">
        <span>by</span>
        <Period {...form.picked('length')} />
      </Acts>
      <Field label="Why" maxLength={500} {...form.field('reason')} />
    </ActPanel>
  );
}

const WHEN = z.object({ when: z.enum(['END_SUBSCRIPTION_LATER', 'END_SUBSCRIPTION_NOW']) });

function EndSubscription({ person, id, title, onEnd }: FormProps & { id: string; title: string }) {
  const form = useActFields<z.infer<typeof WHEN>>(WHEN, { when: 'END_SUBSCRIPTION_LATER' });
  const { when } = form.values;
  return (
    <ActPanel
      title={`End the subscription to ${title}`}
      confirm="End it"
      sheet={{ kind: when, person: person.key, thing: id }}
      onDone={onEnd}
      onCancel={onEnd}
    >
      <Choices
        legend="When"
        value={when}
        choices={[
          ['END_SUBSCRIPTION_LATER', 'when the paid time is over'],
          ['END_SUBSCRIPTION_NOW', 'at once'],
        ]}
        onChoose={(choice) => form.set('when', WHEN.shape.when.parse(choice))}
      />
    </ActPanel>
  );
}

const OTHER_LEVEL = z.object({
  to: z.string().min(1),
  returned: z.array(z.string()),
  follows: z.boolean(),
  reason: REASON,
});

/** Another level in the place of one: higher or lower, with the courses that stay chosen. */
function ChangeLevel({ person, from, title, onEnd }: FormProps & { from: string; title: string }) {
  const { levels, places, waiting } = person.holdings;
  const others = levels.find((one) => one.id === from)?.others ?? [];
  const form = useActFields(OTHER_LEVEL, {
    to: others[0]?.id ?? '',
    returned: [],
    follows: true,
    reason: '',
  });
  const { filled, values } = form;
  const { returned } = values;
  const chosen = [...places.flatMap((place) => place.taken), ...waiting];
  const allowed = others.find((one) => one.id === values.to)?.courses ?? 0;
  const kept = chosen.length - returned.length;
  return (
    <ActPanel
      title={`Another level than ${title}`}
      confirm="Change the level"
      sheet={filled && { kind: 'CHANGE_LEVEL', person: person.key, thing: from, ...filled, to: [filled.to] }}
      onDone={onEnd}
      onCancel={onEnd}
    >
      <label className="flex flex-wrap items-center gap-2">
        <span>Level</span>
        <Select {...form.tick('to')}>
          {others.map((one) => (
            <option key={one.id} value={one.id}>
              {one.title}, {counted(one.courses, 'course', 'courses')} to choose
            </option>
          ))}
        </Select>
      </label>
      <Choices
        legend="How long"
        value={values.follows ? 'follows' : 'paid'}
        choices={[
          ['follows', `as long as ${title} is paid for`],
          ['paid', 'until what is paid for now is over'],
        ]}
        onChoose={(choice) => form.set('follows', choice === 'follows')}
      />
      {chosen.length > 0 && (
        <fieldset>
          <legend>Courses that stay chosen</legend>
          {chosen.map((course) => (
            <Check key={course.id}>
              <Checkbox
                checked={!returned.includes(course.id)}
                onChange={(event) =>
                  form.set(
                    'returned',
                    event.target.checked
                      ? returned.filter((one) => one !== course.id)
                      : [...returned, course.id],
                  )
                }
              />
              {course.title}
            </Check>
          ))}
          {kept > allowed && (
            <p className="text-warning" role="status">
              {kept} chosen and {allowed} to choose: the latest wait, unless you return others.
            </p>
          )}
        </fieldset>
      )}
      <Field label="Why" maxLength={500} {...form.field('reason')} />
    </ActPanel>
  );
}

const INTO = z.object({ into: z.custom<Somebody>().optional() });

function Join({ person, moves, onEnd }: FormProps & { moves: boolean }) {
  const form = useActFields(INTO, {});
  const { into } = form.values;
  return (
    <ActPanel
      title={moves ? 'Change the address' : `Join ${person.name} with somebody`}
      confirm={moves ? 'Change it' : 'Join them'}
      sheet={into === undefined ? undefined : { kind: 'JOIN', person: person.key, thing: into.key }}
      onDone={onEnd}
      onCancel={onEnd}
    >
      <p className="text-soft">
        {moves
          ? `All that ${person.key} has goes over to the new address, in every system. It can be parted again.`
          : `All that ${person.key} has, and will get, counts for the other from now on. It can be parted again.`}
      </p>
      <PersonChoice
        label={moves ? 'New address' : 'Who stays'}
        person={into}
        onChoose={form.picked('into').onChange}
        again="another"
      />
    </ActPanel>
  );
}
