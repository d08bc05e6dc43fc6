import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownDate } from '../ui/dates';
import { Acts, INK, Input, Select, type Tone } from '../ui/kit';

type PersonChange = Schemas['PersonChange'];

/** So many are shown of those that the filter leaves. */
const SHOWN = 40;

const KINDS: Record<PersonChange['kind'], { verb: string; tone: Tone }> = {
  GAINS: { verb: 'gains', tone: 'good' },
  LOSES: { verb: 'loses', tone: 'bad' },
  LONGER: { verb: 'keeps longer', tone: 'good' },
  SHORTER: { verb: 'keeps shorter', tone: 'bad' },
  OTHERWISE: { verb: 'has at other times', tone: 'soft' },
};

const FILTERS: [value: string, words: string, fits: (change: PersonChange) => boolean][] = [
  ['all', 'everybody', () => true],
  ['gain', 'who gain', ({ kind }) => kind === 'GAINS'],
  ['lose', 'who lose', ({ kind }) => kind === 'LOSES'],
  ['other', 'with more or less time', ({ kind }) => kind !== 'GAINS' && kind !== 'LOSES'],
  ['now', 'touched at once', ({ now }) => now],
  ['later', 'touched only later', ({ now }) => !now],
];

/** Whom it touches, with why before and why after. */
export function Who({ consequence }: { consequence: Schemas['DraftConsequence'] }) {
  const [kind, setKind] = useState('all');
  const [words, setWords] = useState('');
  if (consequence.total === 0) {
    return (
      <p className="text-soft">
        Nobody gains or loses anything that they have. What opens counts for purchases from now on.
      </p>
    );
  }
  const fits = FILTERS.find(([value]) => value === kind)?.[2] ?? (() => true);
  const looked = words.trim().toLowerCase();
  const found = consequence.people.filter(
    (change) =>
      fits(change) &&
      [change.name, change.address, change.target].some((text) => text.toLowerCase().includes(looked)),
  );
  const unseen = consequence.total - consequence.people.length;
  return (
    <>
      <h3>Who</h3>
      <Acts className="items-center">
        <Select aria-label="Which of them" value={kind} onChange={(event) => setKind(event.target.value)}>
          {FILTERS.map(([value, name]) => (
            <option key={value} value={value}>
              {name}
            </option>
          ))}
        </Select>
        <Input
          type="search"
          aria-label="Name, address or course"
          placeholder="name, address or course"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
      </Acts>
      <ul>
        {found.slice(0, SHOWN).map((change) => (
          <Touched key={`${change.address}-${change.target}`} change={change} />
        ))}
      </ul>
      {found.length === 0 && <p className="text-soft">Nobody of them.</p>}
      {found.length > SHOWN && <p className="text-soft">and {found.length - SHOWN} more</p>}
      {unseen > 0 && (
        <p className="text-soft">
          The first {consequence.people.length} changes are searched; the list has all {consequence.total}.
        </p>
      )}
    </>
  );
}

function Touched({ change }: { change: PersonChange }) {
  const { zone } = useSession();
  const { verb, tone } = KINDS[change.kind];
  return (
    <li className="grid grid-cols-[1fr_auto] gap-x-2.5 gap-y-0.5 border-b border-line py-2 text-[0.92rem] [&>a]:font-semibold [&>a]:no-underline [&>a]:hover:underline [&>span]:col-span-full [&>span]:text-[0.88rem] [&>span]:text-soft">
      {change.person === undefined ? (
        <strong>{change.name}</strong>
      ) : (
        <Link to="/people/$id" params={{ id: String(change.person) }}>
          {change.name}
        </Link>
      )}
      {change.name !== change.address && <span>{change.address}</span>}
      <strong className={`col-span-full ${INK[tone]}`}>
        {verb} {change.target}
        {change.back !== undefined && `, out until ${shownDate(change.back, zone)}`}
        {!change.now && change.kind !== 'LONGER' && change.kind !== 'SHORTER' && ', later'}
      </strong>
      {change.after === undefined ? (
        <span>
          had {change.before} · {change.reasonBefore}
        </span>
      ) : (
        <span>
          {change.after} · {change.reasonAfter}
          {change.before !== undefined && change.reasonBefore !== change.reasonAfter && (
            <> (before: {change.reasonBefore})</>
          )}
        </span>
      )}
    </li>
  );
}
