import { all, without, type Product } from '../mapping/things';
import { Button, FieldFrame, Input, Period, Select } from '../ui/kit';
import { TargetsEditor, type Known } from '../followups/parts';
import type { Target } from '../followups/model';
import { LaterBy } from './LaterBy';
import { Moment } from './Moment';
import { nameOf, WhoSelect } from './WhoSelect';
import { ExpectEditor } from './ExpectEditor';
import {
  become,
  countBefore,
  isWord,
  WORDS,
  wordOf,
  type Part,
  type PartKind,
  type Said,
  type Story,
  type StoryStep,
} from './model';

const CHOICES: Partial<Record<PartKind, [value: string, words: string][]>> = {
  pays: [
    ['now', 'now'],
    ['later', 'later'],
    ['in-parts', 'in parts'],
    ['zero', 'nothing, it is at no charge'],
  ],
  as: [
    ['new', 'somebody new'],
    ['known', 'somebody with an account'],
    ['guest', 'a guest'],
  ],
  'when-it-ends': [
    ['period-end', 'at the end of what is paid'],
    ['now', 'at once'],
  ],
};

/** How many of a kind there are before a step, by the word that makes one. */
const MADE_BY = { order: 'buys', subscription: 'subscribes', grant: 'is-given' } as const;

interface Props {
  story: Story;
  position: number;
  step: StoryStep;
  before: boolean;
  known: Known;
  onChange: (step: StoryStep) => void;
}

/** One step, picked together in words. */
export function StepEditor({ story, position, step, before, known, onChange }: Props) {
  const word = wordOf(step);
  const first = (kind: PartKind): unknown => firstOf(kind, known, story);
  const person = story.people.length > 1 && word !== 'expect';
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-end gap-3">
        <When step={step} before={before} starts={story.starts} onChange={onChange} />
        {person && (
          <WhoSelect
            label="Who"
            people={story.people}
            who={step.who}
            onChange={(who) => {
              const rest = without(step, 'who');
              onChange(who === undefined ? rest : { ...rest, who });
            }}
          />
        )}
        <FieldFrame label="What" className="w-auto!">
          {(tied) => (
            <Select
              {...tied}
              value={word ?? ''}
              onChange={(event) =>
                onChange(become(step, isWord(event.target.value) ? event.target.value : undefined, first))
              }
            >
              <option value="">nothing: only time passes</option>
              {Object.entries(WORDS).map(([one, { words }]) => (
                <option key={one} value={one}>
                  {words}
                </option>
              ))}
            </Select>
          )}
        </FieldFrame>
        {word !== undefined &&
          (WORDS[word].parts as readonly Part[])
            .filter((part) => part.kind !== 'lines' && part.kind !== 'targets')
            .map((part) => (
              <PartField
                key={part.key}
                part={part}
                value={(step[word] ?? {})[part.key]}
                story={story}
                position={position}
                known={known}
                onChange={(value) =>
                  onChange({ ...step, [word]: withPart(step[word] ?? {}, part.key, value) })
                }
              />
            ))}
      </div>
      {word === 'buys' && (
        <Lines
          lines={(step.buys?.['lines'] ?? []) as Line[]}
          story={story}
          known={known}
          onChange={(lines) => onChange({ ...step, buys: { ...step.buys, lines } })}
        />
      )}
      {word === 'is-given' && (
        <TargetsEditor
          chosen={(step['is-given']?.['to'] ?? []) as Target[]}
          known={known}
          onChange={(to) => onChange({ ...step, 'is-given': { ...step['is-given'], to } })}
        />
      )}
      {word === 'expect' && (
        <ExpectEditor
          expected={step.expect ?? {}}
          story={story}
          known={known}
          onChange={(expect) => onChange({ ...step, expect: expect as Said })}
        />
      )}
    </div>
  );
}

function withPart(said: Said, key: string, value: unknown): Said {
  const rest = without(said, key);
  return value === undefined ? rest : { ...rest, [key]: value };
}

function firstOf(kind: PartKind, known: Known, story: Story): unknown {
  const { things, draft } = known;
  switch (kind) {
    case 'lines':
      return [{ product: all(things, draft, 'product')[0]?.id ?? '' }];
    case 'recurring':
      return recurring(known)[0]?.id ?? '';
    case 'course':
    case 'level':
    case 'tag':
      return all(things, draft, kind)[0]?.id ?? '';
    case 'targets':
      return [{ course: all(things, draft, 'course')[0]?.id ?? '' }];
    case 'person':
      return story.people[1]?.id ?? '';
    default:
      return undefined;
  }
}

function recurring({ things, draft }: Known): Product[] {
  return (all(things, draft, 'product') as Product[]).filter((one) => one.billing?.kind === 'recurring');
}

function When({
  step,
  before,
  starts,
  onChange,
}: Pick<Props, 'step' | 'before' | 'onChange'> & { starts: string }) {
  const kind = before ? 'at' : step.on !== undefined ? 'on' : step.after === undefined ? 'once' : 'after';
  const rest = () => without(without(without(step, 'at'), 'on'), 'after');
  const time = step.at ?? step.on;
  return (
    <>
      {!before && (
        <FieldFrame label="When" className="w-auto!">
          {(tied) => (
            <Select
              {...tied}
              value={kind}
              onChange={(event) => {
                const chosen = event.target.value;
                onChange(
                  chosen === 'once'
                    ? rest()
                    : { ...rest(), ...(chosen === 'on' ? { on: starts } : { after: 'P1D' }) },
                );
              }}
            >
              <option value="once">at the same time</option>
              <option value="after">later, after</option>
              <option value="on">on a day</option>
            </Select>
          )}
        </FieldFrame>
      )}
      {kind === 'after' && (
        <div className="flex gap-2">
          <LaterBy after={step.after ?? 'P1D'} onChange={(after) => onChange({ ...rest(), after })} />
        </div>
      )}
      {time !== undefined && (
        <Moment
          label={before ? 'When, before it starts' : 'Day'}
          value={time}
          onChange={(next) => onChange({ ...rest(), [before ? 'at' : 'on']: next })}
        />
      )}
    </>
  );
}

interface PartProps {
  part: Part;
  value: unknown;
  story: Story;
  position: number;
  known: Known;
  onChange: (value: unknown) => void;
}

function PartField({ part, value, story, position, known, onChange }: PartProps) {
  const { things, draft } = known;
  const pick = (options: [string, string][], none?: string) => (
    <FieldFrame label={capital(part.words)} className="w-auto!">
      {(tied) => (
        <Select
          {...tied}
          value={typeof value === 'string' || typeof value === 'number' ? String(value) : ''}
          onChange={(event) => onChange(event.target.value === '' ? undefined : event.target.value)}
        >
          {none !== undefined && <option value="">{none}</option>}
          {options.map(([one, words]) => (
            <option key={one} value={one}>
              {words}
            </option>
          ))}
        </Select>
      )}
    </FieldFrame>
  );
  const write = (type: string, read: (text: string) => unknown) => (
    <FieldFrame label={capital(part.words)} className="w-auto!">
      {(tied) => (
        <Input
          {...tied}
          type={type}
          className="w-24"
          min={1}
          placeholder={part.kind === 'money' ? 'all' : 'any'}
          value={typeof value === 'string' || typeof value === 'number' ? String(value) : ''}
          onChange={(event) => onChange(event.target.value === '' ? undefined : read(event.target.value))}
        />
      )}
    </FieldFrame>
  );
  switch (part.kind) {
    case 'order':
    case 'subscription':
    case 'grant': {
      const many = countBefore(story, position, MADE_BY[part.kind]);
      if (many < 2 && value === undefined) return null;
      return (
        <FieldFrame label={capital(part.words)} className="w-auto!">
          {(tied) => (
            <Select
              {...tied}
              value={typeof value === 'number' ? String(value) : ''}
              onChange={(event) =>
                onChange(event.target.value === '' ? undefined : Number(event.target.value))
              }
            >
              <option value="">the last</option>
              {Array.from({ length: Math.max(many, Number(value ?? 0)) }, (_, at) => (
                <option key={at} value={at + 1}>
                  number {at + 1}
                </option>
              ))}
            </Select>
          )}
        </FieldFrame>
      );
    }
    case 'number':
      return write('number', Number);
    case 'money':
      return write('text', (text) => text.replace(',', '.'));
    case 'period':
      return (
        <FieldFrame label={capital(part.words)} className="w-auto!">
          {(tied) => (
            <div className="flex gap-2">
              <Select
                {...tied}
                value={value === undefined ? '' : 'some'}
                onChange={(event) => onChange(event.target.value === '' ? undefined : 'P14D')}
              >
                <option value="">{part.key === 'trial' ? 'not on trial' : 'without an end'}</option>
                <option value="some">for a time</option>
              </Select>
              <Period value={typeof value === 'string' ? value : undefined} onChange={onChange} />
            </div>
          )}
        </FieldFrame>
      );
    case 'recurring':
      return pick(recurring(known).map(({ id, title }) => [id, title ?? id]));
    case 'course':
    case 'level':
    case 'tag':
      return pick(all(things, draft, part.kind).map(({ id, title }) => [id, title ?? id]));
    case 'person':
      return pick(story.people.map((one) => [one.id, nameOf(one)]));
    case 'pays':
    case 'as':
    case 'when-it-ends':
      return (
        <FieldFrame label={capital(part.words)} className="w-auto!">
          {(tied) => (
            <Select
              {...tied}
              value={typeof value === 'string' ? value : (CHOICES[part.kind]?.[0]?.[0] ?? '')}
              onChange={(event) =>
                onChange(event.target.value === CHOICES[part.kind]?.[0]?.[0] ? undefined : event.target.value)
              }
            >
              {(CHOICES[part.kind] ?? []).map(([one, words]) => (
                <option key={one} value={one}>
                  {words}
                </option>
              ))}
            </Select>
          )}
        </FieldFrame>
      );
    default:
      return null;
  }
}

function capital(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}

interface Line {
  product: string;
  option?: string;
  quantity?: number;
  amount?: string;
  giftTo?: string;
}

function Lines({
  lines,
  story,
  known,
  onChange,
}: {
  lines: Line[];
  story: Story;
  known: Known;
  onChange: (lines: Line[]) => void;
}) {
  const products = all(known.things, known.draft, 'product') as Product[];
  const set = (at: number, line: Line) => onChange(lines.map((one, other) => (other === at ? line : one)));
  return (
    <div className="grid gap-2">
      {lines.map((line, at) => {
        const options = products.find((one) => one.id === line.product)?.options ?? [];
        return (
          <div key={at} className="flex flex-wrap items-center gap-2">
            <Input
              type="number"
              aria-label="How many"
              className="w-18"
              min={1}
              max={10_000}
              value={line.quantity ?? 1}
              onChange={(event) => {
                const quantity = Number(event.target.value);
                if (Number.isInteger(quantity) && quantity >= 1) set(at, { ...line, quantity });
              }}
            />
            <span>×</span>
            <Select
              aria-label="Product"
              value={line.product}
              onChange={(event) => set(at, { ...without(line, 'option'), product: event.target.value })}
            >
              {products.map(({ id, title }) => (
                <option key={id} value={id}>
                  {title ?? id}
                </option>
              ))}
            </Select>
            {options.length > 0 && (
              <Select
                aria-label="Option"
                value={line.option ?? ''}
                onChange={(event) => {
                  const rest = without(line, 'option');
                  set(at, event.target.value === '' ? rest : { ...rest, option: event.target.value });
                }}
              >
                <option value="">no option</option>
                {options.map(({ id, title }) => (
                  <option key={id} value={id}>
                    {title ?? id}
                  </option>
                ))}
              </Select>
            )}
            <Input
              aria-label="Amount of the whole line"
              placeholder="its price"
              className="w-24"
              value={line.amount ?? ''}
              onChange={(event) => {
                const rest = without(line, 'amount');
                const amount = event.target.value.replace(',', '.');
                set(at, amount === '' ? rest : { ...rest, amount });
              }}
            />
            <Select
              aria-label="For whom"
              value={line.giftTo ?? ''}
              onChange={(event) => {
                const rest = without(line, 'giftTo');
                set(at, event.target.value === '' ? rest : { ...rest, giftTo: event.target.value });
              }}
            >
              <option value="">for themselves</option>
              {story.people.map((one) => (
                <option key={one.id} value={one.id}>
                  as a gift to {nameOf(one)}
                </option>
              ))}
            </Select>
            {lines.length > 1 && (
              <Button small onClick={() => onChange(lines.filter((_, other) => other !== at))}>
                Take out
              </Button>
            )}
          </div>
        );
      })}
      <Button
        small
        className="justify-self-start"
        onClick={() => onChange([...lines, { product: products[0]?.id ?? '' }])}
      >
        Another line
      </Button>
    </div>
  );
}
