import { useState } from 'react';
import type { Schemas } from '../api/client';
import { ActPanel } from '../desk/ActPanel';
import { PersonChoice } from '../desk/PersonChoice';
import type { Somebody } from '../desk/PersonFinder';
import { TargetFinder } from '../desk/TargetFinder';
import type { Sheet } from '../desk/useAct';
import { counted } from '../ui/words';
import { Acts, Check, Checkbox, Choices, Field, Period, Select, TextButton } from '../ui/kit';

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

/** Cannot be taken back, so whoever does it writes whom they mean. */
function Erase({ person, onEnd }: { person: Props['person']; onEnd: () => void }) {
  const [typed, setTyped] = useState('');
  return (
    <ActPanel
      title={`Erase ${person.name}`}
      confirm="Erase for good"
      sheet={
        typed.trim().toLowerCase() === person.key.toLowerCase()
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
      <Field label={`Write ${person.key}`} value={typed} onValue={setTyped} maxLength={320} />
    </ActPanel>
  );
}

function Give({ person, onEnd }: { person: Props['person']; onEnd: () => void }) {
  const [chosen, setChosen] = useState<Schemas['OfferedTarget'][]>([]);
  const [tier, setTier] = useState('');
  const [limited, setLimited] = useState(true);
  const [length, setLength] = useState('P1Y');
  const [reason, setReason] = useState('');
  const tiers = chosen.length === 1 ? (chosen[0]?.tiers ?? []) : [];
  const sheet: Sheet | undefined =
    chosen.length === 0 || reason.trim() === ''
      ? undefined
      : {
          kind: 'GIVE',
          person: person.key,
          to: chosen.map((one) =>
            tier !== '' && tiers.includes(tier) ? `${one.target}@${tier}` : one.target,
          ),
          ...(limited && { length }),
          reason,
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
          <TextButton type="button" onClick={() => setChosen(chosen.filter((other) => other !== one))}>
            take out
          </TextButton>
        </p>
      ))}
      <TargetFinder
        label="What to give"
        placeholder="Course, area, group, download …"
        onChoose={(target) => {
          if (!chosen.some((one) => one.target === target.target)) setChosen([...chosen, target]);
        }}
      />
      {tiers.length > 0 && (
        <label className="flex flex-wrap items-center gap-2">
          <span>How much of it</span>
          <Select value={tier} onChange={(event) => setTier(event.target.value)}>
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
        value={limited ? 'period' : 'always'}
        choices={[
          ['period', 'for', <Period key="period" value={length} onChange={setLength} />],
          ['always', 'until somebody ends it'],
        ]}
        onChoose={(choice) => setLimited(choice === 'period')}
      />
      <Field name="reason" label="Why" value={reason} onValue={setReason} maxLength={500} />
    </ActPanel>
  );
}

function Extend({
  person,
  target,
  title,
  onEnd,
}: {
  person: Props['person'];
  target: string;
  title: string;
  onEnd: () => void;
}) {
  const [length, setLength] = useState('P1M');
  const [reason, setReason] = useState('');
  return (
    <ActPanel
      title={`Keep ${title} open for longer`}
      confirm="Keep it open"
      sheet={
        reason.trim() === ''
          ? undefined
          : { kind: 'EXTEND', person: person.key, thing: target, length, reason }
      }
      onDone={onEnd}
      onCancel={onEnd}
    >
      <Acts className="items-center">
        <span>by</span>
        <Period value={length} onChange={setLength} />
      </Acts>
      <Field name="reason" label="Why" value={reason} onValue={setReason} maxLength={500} />
    </ActPanel>
  );
}

function EndSubscription({
  person,
  id,
  title,
  onEnd,
}: {
  person: Props['person'];
  id: string;
  title: string;
  onEnd: () => void;
}) {
  const [when, setWhen] = useState<'later' | 'now'>('later');
  return (
    <ActPanel
      title={`End the subscription to ${title}`}
      confirm="End it"
      sheet={{
        kind: when === 'now' ? 'END_SUBSCRIPTION_NOW' : 'END_SUBSCRIPTION_LATER',
        person: person.key,
        thing: id,
      }}
      onDone={onEnd}
      onCancel={onEnd}
    >
      <Choices
        legend="When"
        value={when}
        choices={[
          ['later', 'when the paid time is over'],
          ['now', 'at once'],
        ]}
        onChoose={(choice) => setWhen(choice === 'now' ? 'now' : 'later')}
      />
    </ActPanel>
  );
}

/** Another level in the place of one: higher or lower, with the courses that stay chosen. */
function ChangeLevel({
  person,
  from,
  title,
  onEnd,
}: {
  person: Props['person'];
  from: string;
  title: string;
  onEnd: () => void;
}) {
  const { levels, places, waiting } = person.holdings;
  const others = levels.find((one) => one.id === from)?.others ?? [];
  const [to, setTo] = useState(others[0]?.id ?? '');
  const [returned, setReturned] = useState<string[]>([]);
  const [follows, setFollows] = useState(true);
  const [reason, setReason] = useState('');
  const chosen = [...places.flatMap((place) => place.taken), ...waiting];
  const allowed = others.find((one) => one.id === to)?.courses ?? 0;
  const kept = chosen.length - returned.length;
  return (
    <ActPanel
      title={`Another level than ${title}`}
      confirm="Change the level"
      sheet={
        to === '' || reason.trim() === ''
          ? undefined
          : { kind: 'CHANGE_LEVEL', person: person.key, thing: from, to: [to], returned, follows, reason }
      }
      onDone={onEnd}
      onCancel={onEnd}
    >
      <label className="flex flex-wrap items-center gap-2">
        <span>Level</span>
        <Select value={to} onChange={(event) => setTo(event.target.value)}>
          {others.map((one) => (
            <option key={one.id} value={one.id}>
              {one.title}, {counted(one.courses, 'course', 'courses')} to choose
            </option>
          ))}
        </Select>
      </label>
      <Choices
        legend="How long"
        value={follows ? 'follows' : 'paid'}
        choices={[
          ['follows', `as long as ${title} is paid for`],
          ['paid', 'until what is paid for now is over'],
        ]}
        onChoose={(choice) => setFollows(choice === 'follows')}
      />
      {chosen.length > 0 && (
        <fieldset>
          <legend>Courses that stay chosen</legend>
          {chosen.map((course) => (
            <Check key={course.id}>
              <Checkbox
                checked={!returned.includes(course.id)}
                onChange={(event) =>
                  setReturned(
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
      <Field name="reason" label="Why" value={reason} onValue={setReason} maxLength={500} />
    </ActPanel>
  );
}

function Join({ person, moves, onEnd }: { person: Props['person']; moves: boolean; onEnd: () => void }) {
  const [into, setInto] = useState<Somebody>();
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
        onChoose={setInto}
        again="another"
      />
    </ActPanel>
  );
}
