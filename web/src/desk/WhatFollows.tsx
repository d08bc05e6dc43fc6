import type { Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownDate, shownTime } from '../ui/dates';
import { counted } from '../ui/words';
import { Chain, Step, type Tone } from '../ui/kit';

export type Shown = Pick<Schemas['ActConsequence'], 'people' | 'nothing' | 'seatsGone'>;
type Change = Schemas['ShownChange'];

/** What an act would change, for whom, and what they would read. */
export function WhatFollows({ consequence }: { consequence: Shown }) {
  const touched = consequence.people.filter((person) => person.changes.length > 0);
  const several = consequence.people.length > 1;
  return (
    <>
      {touched.length === 0 && consequence.seatsGone === 0 && (
        <Chain>
          <Step tone="soft">
            <strong>Nothing opens or closes</strong>
            <span>Whatever they have stays as it is.</span>
          </Step>
        </Chain>
      )}
      {touched.map((person) => (
        <div key={person.key}>
          {several && <h3>For {person.name}</h3>}
          <Chain>
            <Changes changes={person.changes} />
          </Chain>
        </div>
      ))}
      {consequence.seatsGone > 0 && (
        <Chain>
          <Step tone="bad">
            <strong>Can no longer be taken up</strong>
            <span>
              {counted(consequence.seatsGone, 'gift or seat', 'gifts or seats')} that nobody has yet
            </span>
          </Step>
        </Chain>
      )}
      {consequence.nothing.length > 0 && (
        <Chain>
          <Step tone="lamp">
            <strong>Nothing opens for</strong>
            {consequence.nothing.map((line) => (
              <span key={line.product}>
                {line.product}: {line.why}
              </span>
            ))}
          </Step>
        </Chain>
      )}
      {consequence.people.map(
        (person) =>
          person.letter !== undefined && (
            <div key={person.key}>
              <h3>{several ? `${person.name} will read` : 'They will read'}</h3>
              <div className="rounded-box bg-base-200 px-3 py-3 text-[0.9rem] [&_p]:mt-2.5 [&_p]:whitespace-pre-line">
                <strong>{person.letter.subject}</strong>
                <p>{person.letter.text}</p>
              </div>
            </div>
          ),
      )}
    </>
  );
}

function opensNow(change: Change): boolean {
  return change.now && change.kind !== 'LOSES';
}

const GROUPS: { title: string; tone: Tone; holds: (change: Change) => boolean }[] = [
  {
    title: 'Opens',
    tone: 'good',
    holds: (it) => opensNow(it) && it.sort !== 'tag',
  },
  { title: 'Tags put on', tone: 'good', holds: (it) => opensNow(it) && it.sort === 'tag' },
  { title: 'Opens later', tone: 'lamp', holds: (it) => it.kind === 'GAINS' && !it.now },
  { title: 'Is open for longer', tone: 'good', holds: (it) => it.kind === 'LONGER' && !it.now },
  { title: 'Ends earlier', tone: 'bad', holds: (it) => it.kind === 'SHORTER' },
  { title: 'Closes', tone: 'bad', holds: (it) => it.kind === 'LOSES' && it.sort !== 'tag' },
  { title: 'Tags taken off', tone: 'bad', holds: (it) => it.kind === 'LOSES' && it.sort === 'tag' },
  { title: 'Is open at other times', tone: 'lamp', holds: (it) => it.kind === 'OTHERWISE' },
];

function coursesFirst(changes: Change[]): Change[] {
  return changes.toSorted((a, b) => Number(a.sort !== 'course') - Number(b.sort !== 'course'));
}

function Changes({ changes }: { changes: Change[] }) {
  return GROUPS.map((group) => {
    const own = coursesFirst(changes.filter(group.holds));
    if (own.length === 0) return null;
    return (
      <Step key={group.title} tone={group.tone}>
        <strong>{group.title}</strong>
        {own.map((change) => (
          <span key={change.target}>
            {change.title} <Detail change={change} />
            {change.why !== undefined && <span className="text-soft">{change.why}</span>}
          </span>
        ))}
      </Step>
    );
  });
}

function Detail({ change }: { change: Change }) {
  const { zone } = useSession();
  const sort = change.sort === 'course' || change.sort === 'tag' ? '' : change.sort;
  const isMoved = change.kind === 'LONGER' || change.kind === 'SHORTER';
  const day = (time: string | undefined) => (time === undefined ? '' : shownDate(time, zone));
  // moved within a day, only the hours say how far
  const ending =
    isMoved && day(change.end) === day(change.endedBefore) ? (time: string) => shownTime(time, zone) : day;
  const parts = [
    sort,
    change.start === undefined
      ? ''
      : `${change.kind === 'LOSES' ? 'out until' : 'from'} ${shownDate(change.start, zone)}`,
    change.kind === 'LOSES' || change.sort === 'tag'
      ? ''
      : change.end === undefined
        ? 'without an end'
        : change.renews
          ? 'as long as it is paid for'
          : `until ${ending(change.end)}`,
    isMoved && change.endedBefore !== undefined ? `instead of ${ending(change.endedBefore)}` : '',
  ].filter((part) => part !== '');
  return <span className="text-soft">{parts.join(', ')}</span>;
}
