import { useState } from 'react';
import { matches } from '../desk/offer';
import { all, without } from '../mapping/things';
import { DayField } from '../ui/DayField';
import { Finder } from '../ui/Finder';
import { Acts, Button, Input, Select } from '../ui/kit';
import type { Known } from '../followups/parts';
import { statements, type Expected, type Story } from './model';
import { WhoSelect } from './WhoSelect';

const MOST_FOUND = 8;
const SORTS = ['course', 'level', 'tag', 'group', 'area', 'download', 'list'] as const;

const KINDS = {
  open: 'is open',
  closed: 'is closed',
  until: 'is open until',
  told: 'is held by',
  'not-told': 'is not held by',
} as const;
type Kind = keyof typeof KINDS;

interface Openable {
  path: string;
  title: string;
  sort: string;
}

/** All that can be open, courses with their sections. */
function openable({ things, draft }: Known): Openable[] {
  return SORTS.flatMap((sort) =>
    (
      all(things, draft, sort) as {
        id: string;
        title?: string;
        sections?: { id: string; title?: string }[];
      }[]
    ).flatMap(({ id, title, sections }): Openable[] => [
      { path: `${sort}/${id}`, title: title ?? id, sort },
      ...(sections ?? []).map((section) => ({
        path: `section/${id}/${section.id}`,
        title: `${title ?? id}: ${section.title ?? section.id}`,
        sort: 'section',
      })),
    ]),
  );
}

/** What a target is called, by its path. */
export function titles(known: Known): (path: string) => string {
  const byPath = new Map(openable(known).map((one) => [one.path, one.title]));
  return (path) => (path.startsWith('tag/') ? 'tag ' : '') + (byPath.get(path) ?? path);
}

interface Props {
  expected: Expected;
  story: Story;
  known: Known;
  onChange: (expected: Expected) => void;
}

/** What should be so, one statement after the other. */
export function ExpectEditor({ expected, story, known, onChange }: Props) {
  const title = titles(known);
  return (
    <div className="grid gap-3">
      {story.people.length > 1 && (
        <WhoSelect
          label="For whom"
          people={story.people}
          who={expected.who}
          onChange={(who) => {
            const rest = without(expected, 'who');
            onChange(who === undefined ? rest : { ...rest, who });
          }}
        />
      )}
      <ul className="grid gap-1.5">
        {statements(expected, title).map(({ words, rest }) => (
          <li key={words} className="flex flex-wrap items-baseline gap-2">
            <span className="min-w-0 flex-1">{words}</span>
            <Button small aria-label={`Without: ${words}`} onClick={() => onChange(rest)}>
              Take out
            </Button>
          </li>
        ))}
      </ul>
      <OneMore expected={expected} known={known} onChange={onChange} />
    </div>
  );
}

function OneMore({ expected, known, onChange }: Omit<Props, 'story'>) {
  const [words, setWords] = useState('');
  const [kind, setKind] = useState<Kind>('open');
  const [day, setDay] = useState('');
  const [system, setSystem] = useState(known.systems[0]?.id ?? '');
  const [row, setRow] = useState('');
  const add = (path: string) => {
    switch (kind) {
      case 'open':
      case 'closed':
        onChange({ ...expected, [kind]: [...(expected[kind] ?? []), path] });
        break;
      case 'until':
        onChange({ ...expected, until: { ...expected.until, [path]: day === '' ? 'never' : day } });
        break;
      case 'told':
      case 'not-told': {
        const key = kind === 'told' ? 'open' : 'closed';
        const held = expected.told?.[system] ?? {};
        onChange({
          ...expected,
          told: { ...expected.told, [system]: { ...held, [key]: [...(held[key] ?? []), path] } },
        });
      }
    }
  };
  const addRow = (key: 'done' | 'not-done') => {
    onChange({ ...expected, [key]: [...(expected[key] ?? []), row.trim()] });
    setRow('');
  };
  return (
    <div className="grid gap-2">
      <div className="flex flex-wrap items-center gap-2">
        <Select
          aria-label="What of it"
          value={kind}
          onChange={(event) => setKind(event.target.value as Kind)}
        >
          {Object.entries(KINDS).map(([one, said]) => (
            <option key={one} value={one}>
              it {said}
            </option>
          ))}
        </Select>
        {kind === 'until' && (
          <div className="w-44">
            <DayField bare label="Until which day; none = never" value={day} onChange={setDay} />
          </div>
        )}
        {(kind === 'told' || kind === 'not-told') && (
          <Select aria-label="System" value={system} onChange={(event) => setSystem(event.target.value)}>
            {known.systems.map((one) => (
              <option key={one.id} value={one.id}>
                {one.title}
              </option>
            ))}
          </Select>
        )}
        <div className="w-64">
          <Finder
            label="Course, level, tag, area …"
            placeholder="course, level, tag, area …"
            words={words}
            onWords={setWords}
            found={openable(known)
              .filter((one) => matches(words, one.title, one.path))
              .slice(0, MOST_FOUND)}
            idOf={(one) => one.path}
            show={(one) => (
              <>
                {one.title} <span className="text-soft">{one.sort}</span>
              </>
            )}
            onChoose={(one) => add(one.path)}
            nothing="Nothing is called that."
          />
        </div>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <Input
          aria-label="What a follow-up does"
          className="w-80"
          placeholder="write Welcome, Ines Vale"
          value={row}
          onChange={(event) => setRow(event.target.value)}
        />
        <Acts>
          <Button small disabled={row.trim() === ''} onClick={() => addRow('done')}>
            A follow-up does this
          </Button>
          <Button small disabled={row.trim() === ''} onClick={() => addRow('not-done')}>
            None does this
          </Button>
        </Acts>
      </div>
    </div>
  );
}
