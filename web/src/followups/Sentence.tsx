import { useEffect, useId, useRef, useState, type ReactNode } from 'react';
import { isTyping } from '../band/keys';
import { without } from '../mapping/things';
import { Menu } from '../ui/Menu';
import { Button, buttonLook, Check, Choices, Field, Notice, Panel, Period, Select } from '../ui/kit';
import { periodInWords } from '../ui/periods';
import {
  columns,
  hasThing,
  inserted,
  isOfOrder,
  kindOfStep,
  kindOfWhen,
  moved,
  onces,
  placeOf,
  removed,
  usualOnce,
  withStep,
  type Followup,
  type Once,
  type Step,
  type StepKind,
  type Way,
} from './model';
import { ConditionsEditor } from './conditions';
import { CodeEditor, placeholders, TextWithPlaceholders } from './letterParts';
import { TargetsEditor, WhenEditor, type Known } from './parts';
import {
  aboutInWords,
  aroundAbout,
  codeInWords,
  conditionsInWords,
  ONCE_WORDS,
  targetsInWords,
} from './words';

interface Props {
  followup: Followup;
  known: Known;
  mayChange: boolean;
  onChange: (followup: Followup) => void;
}

const STEP_WORDS: Record<StepKind, string> = {
  give: 'give something',
  take: 'take something away',
  set: 'set a field',
  write: 'write a letter',
  tell: 'tell the team',
  wait: 'wait',
  if: 'branch: if … otherwise …',
  stop: 'stop here',
};

/** A step of a kind, ready to be edited. */
function firstOf(kind: StepKind): Step {
  switch (kind) {
    case 'give':
      return { give: { to: [] } };
    case 'take':
      return { take: { from: [] } };
    case 'set':
      return { set: { field: 'note', value: '{{thing.title}}' } };
    case 'write':
      return {
        write: { subject: 'About {{thing.title}}', text: 'Hello {{person.name}},\n\n…\n\n{{signIn}}' },
      };
    case 'tell':
      return { tell: { text: '{{person.name}}: {{thing.title}}' } };
    case 'wait':
      return { wait: 'P3D' };
    case 'if':
      return { if: [{ has: [] }], then: [{ tell: { text: '{{person.name}}' } }] };
    case 'stop':
      return { stop: {} };
  }
}

/** A follow-up as a sentence, each part of which is edited where it stands. */
export function Sentence({ followup, known: given, mayChange, onChange }: Props) {
  const [open, setOpen] = useState<string>();
  const [adding, setAdding] = useState(false);
  const known = { ...given, columns: columns(followup) };
  const { names } = known;
  const set = (more: Partial<Followup>) => onChange({ ...followup, ...more });
  const [before, after] = aroundAbout(followup.when);
  const once = followup.once ?? usualOnce(followup);
  const only = followup.only ?? [];
  const part = (key: string, words: string, editor: ReactNode, label: string) => (
    <Part
      key={key}
      words={words}
      label={label}
      open={open === key}
      fixed={!mayChange}
      onToggle={() => setOpen(open === key ? undefined : key)}
    >
      {editor}
    </Part>
  );
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'a' || event.ctrlKey || event.metaKey || event.altKey) return;
      if (isTyping(event) || !mayChange) return;
      event.preventDefault();
      setAdding(true);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [mayChange]);
  const whenEditor = <WhenEditor when={followup.when} known={known} onChange={(when) => set({ when })} />;
  return (
    <Panel aria-label="What it does">
      <div className="text-[1.02rem] leading-9">
        When {before} {part('when', aboutInWords(followup.when, names), whenEditor, 'What is waited for')}
        {after === '' ? '' : ` ${after}`},{' '}
        {isOfOrder(followup.when) && (
          <>
            {part(
              'each',
              followup.each === 'line' ? 'for each of its lines' : 'for the whole order',
              <Choices
                legend="One run for"
                value={followup.each ?? 'order'}
                choices={[
                  ['order', 'the whole order'],
                  ['line', 'each of its lines that match'],
                ]}
                onChoose={(each) => {
                  const rest = without(followup, 'each', 'once', 'rows');
                  onChange(each === 'line' ? { ...rest, each: 'line' } : rest);
                }}
              />,
              'One run for',
            )}
            ,{' '}
          </>
        )}
        {part(
          'once',
          ONCE_WORDS[once],
          <Choices
            legend="How often it serves one person"
            value={once}
            choices={onces(followup).map((one) => [one, ONCE_WORDS[one]])}
            onChoose={(one) => {
              const rest = without(followup, 'once');
              onChange(one === usualOnce(followup) ? rest : { ...rest, once: one as Once });
            }}
          />,
          'How often',
        )}
        ,{' '}
        {part(
          'only',
          only.length === 0 ? 'whoever it is' : `only if ${conditionsInWords(only, names)}`,
          <ConditionsEditor
            conditions={only}
            known={known}
            onChange={(conditions) => {
              const rest = without(followup, 'only');
              onChange(conditions.length === 0 ? rest : { ...rest, only: conditions });
            }}
          />,
          'For whom',
        )}
        , then
      </div>
      <Steps
        steps={followup.steps}
        way={[]}
        known={known}
        open={open}
        mayChange={mayChange}
        lasts={lastsInWords(followup)}
        onOpen={setOpen}
        onChange={(steps) => set({ steps })}
        root={followup.steps}
      />
      {mayChange && (
        <AddStep
          open={adding}
          onOpen={setAdding}
          onAdd={(kindOfNew) => {
            set({ steps: [...followup.steps, firstOf(kindOfNew)] });
            setOpen(placeOf([followup.steps.length]));
          }}
        />
      )}
      <div className="text-[1.02rem] leading-9">
        What it gives lasts{' '}
        {part(
          'lasts',
          lastsInWords(followup),
          <Choices
            legend="How long what it gives lasts"
            value={followup.lasts ?? 'cause'}
            choices={[
              ['cause', `as long as its cause: ${causeInWords(followup)}`],
              ['always', 'for good'],
            ]}
            onChoose={(lasts) => {
              const rest = without(followup, 'lasts');
              onChange(lasts === 'always' ? { ...rest, lasts: 'always' } : rest);
            }}
          />,
          'How long',
        )}
        . After each wait it goes on{' '}
        {part(
          'while',
          (followup.while ?? []).length === 0
            ? 'in any case'
            : `only while ${conditionsInWords(followup.while ?? [], names)}`,
          <ConditionsEditor
            conditions={followup.while ?? []}
            known={known}
            onChange={(conditions) => {
              const rest = without(followup, 'while');
              onChange(conditions.length === 0 ? rest : { ...rest, while: conditions });
            }}
          />,
          'Whether it goes on after a wait',
        )}
        .
      </div>
    </Panel>
  );
}

function causeInWords(followup: Followup): string {
  const kind = kindOfWhen(followup.when);
  if (kind === 'subscription') return 'the subscription';
  if (kind === 'opened' || kind === 'ending') return 'it being open';
  if (kind === 'cancelled' || kind === 'refunded' || kind === 'ended') return 'there is none, so for good';
  if (kind === 'completed' || kind === 'account') return 'there is none, so for good';
  return hasThing(followup) ? 'the order, and that line of it' : 'the order';
}

function lastsInWords(followup: Followup): string {
  if (followup.lasts === 'always') return 'for good';
  const kind = kindOfWhen(followup.when);
  if (kind === 'subscription') return 'as long as the subscription';
  if (kind === 'opened' || kind === 'ending') return 'as long as it is open';
  return ['cancelled', 'refunded', 'ended', 'completed', 'account'].includes(kind)
    ? 'for good'
    : 'as long as the order stands';
}

interface PartProps {
  words: string;
  label: string;
  open: boolean;
  fixed: boolean;
  onToggle: () => void;
  children: ReactNode;
}

/** A part of the sentence; pressed, it is edited below its line. */
function Part({ words, label, open, fixed, onToggle, children }: PartProps) {
  const id = useId();
  const button = useRef<HTMLButtonElement>(null);
  if (fixed) return <strong className="font-semibold">{words}</strong>;
  return (
    <>
      <button
        ref={button}
        type="button"
        aria-expanded={open}
        aria-controls={open ? id : undefined}
        aria-label={`${label}: ${words}`}
        className="cursor-pointer rounded-field border-b-2 border-lamp bg-chosen px-1.5 py-0.5 text-left leading-snug font-semibold hover:bg-base-200"
        onClick={onToggle}
      >
        {words}
      </button>
      {open && (
        // Escape is heard for whatever inside has the focus
        // eslint-disable-next-line jsx-a11y/no-static-element-interactions
        <div
          id={id}
          className="my-2 grid gap-3 rounded-box border border-line bg-base-200 p-3 text-[0.95rem] leading-normal"
          onKeyDown={(event) => {
            if (event.key !== 'Escape' || event.defaultPrevented) return;
            onToggle();
            button.current?.focus();
          }}
        >
          {children}
          <Button small type="button" className="justify-self-start" onClick={onToggle}>
            Done
          </Button>
        </div>
      )}
    </>
  );
}

interface StepsProps {
  steps: Step[];
  way: Way;
  root: Step[];
  known: Known;
  open: string | undefined;
  mayChange: boolean;
  lasts: string;
  onOpen: (key: string | undefined) => void;
  onChange: (root: Step[]) => void;
}

function Steps(props: StepsProps) {
  const { steps, way } = props;
  return (
    <ol className="grid gap-1">
      {steps.map((step, at) => (
        // steps have no ids; they are known by their place
        <StepLine
          key={at}
          {...props}
          step={step}
          here={[...way, at]}
          afterBranch={at > 0 && kindOfStep(steps[at - 1] ?? {}) === 'if'}
          many={steps.length}
        />
      ))}
    </ol>
  );
}

interface LineProps extends StepsProps {
  step: Step;
  here: Way;
  /** Whether two branches have joined again just before it. */
  afterBranch: boolean;
  many: number;
}

function StepLine(props: LineProps) {
  const { step, here, root, open, mayChange, afterBranch, many, onOpen, onChange } = props;
  const place = placeOf(here);
  const kind = kindOfStep(step);
  const put = (next: Step) => onChange(withStep(root, here, next));
  const at = here.at(-1) as number;
  return (
    <li className="border-l-[3px] border-line pl-3">
      <div className="flex items-start gap-2">
        <div className="min-w-0 flex-1 text-[1.02rem] leading-9">
          {afterBranch && <strong>in both cases </strong>}
          <StepWords {...props} place={place} put={put} />
        </div>
        {mayChange && (
          <Menu
            name={`Step ${place}`}
            className={`${buttonLook({ small: true })} mt-1`}
            acts={[
              {
                id: 'before',
                words: 'Put one before it',
                onAct: () => {
                  onChange(inserted(root, here, firstOf('tell')));
                  onOpen(place);
                },
              },
              {
                id: 'up',
                words: 'Earlier',
                disabled: at === 0,
                onAct: () => onChange(moved(root, here, -1)),
              },
              {
                id: 'down',
                words: 'Later',
                disabled: at === many - 1,
                onAct: () => onChange(moved(root, here, 1)),
              },
              {
                id: 'out',
                words: 'Take it out',
                disabled: root.length === 1 && here.length === 1,
                onAct: () => {
                  onChange(removed(root, here));
                  onOpen(undefined);
                },
              },
            ]}
          >
            …
          </Menu>
        )}
      </div>
      {open === place && kind !== 'if' && <KindChoice kind={kind} onChoose={(next) => put(firstOf(next))} />}
      {kind === 'if' && (
        <div className="grid gap-1 pb-1">
          <Branch {...props} branch="then" words="then" put={put} />
          <Branch {...props} branch="otherwise" words="otherwise" put={put} />
        </div>
      )}
    </li>
  );
  function KindChoice({ kind: now, onChoose }: { kind: StepKind; onChoose: (kind: StepKind) => void }) {
    return (
      <Check className="mb-2 text-[0.95rem]">
        Something else instead:
        <Select
          aria-label="What is done"
          value={now}
          onChange={(event) => onChoose(event.target.value as StepKind)}
        >
          {Object.entries(STEP_WORDS).map(([one, words]) => (
            <option key={one} value={one}>
              {words}
            </option>
          ))}
        </Select>
      </Check>
    );
  }
}

function Branch({
  branch,
  words,
  put,
  ...props
}: LineProps & { branch: 'then' | 'otherwise'; words: string; put: (step: Step) => void }) {
  const { step, here, root, mayChange, onOpen, onChange } = props;
  const inside = step[branch] ?? [];
  if (inside.length === 0 && !mayChange) return null;
  return (
    <div className="ml-2">
      <strong>{words}</strong>
      {inside.length === 0 ? (
        <span className="text-soft"> nothing; it goes on</span>
      ) : (
        <Steps {...props} steps={inside} way={[...here, branch]} />
      )}
      {mayChange && (
        <AddStep
          small
          onAdd={(kind) => {
            const way: Way = [...here, branch, inside.length];
            if (inside.length === 0) put({ ...step, [branch]: [firstOf(kind)] });
            else onChange(inserted(root, way, firstOf(kind)));
            onOpen(placeOf(way));
          }}
        />
      )}
    </div>
  );
}

function StepWords({
  step,
  place,
  put,
  known,
  open,
  mayChange,
  lasts,
  onOpen,
}: LineProps & { place: string; put: (step: Step) => void }) {
  const { names } = known;
  const part = (words: string, label: string, editor: ReactNode) => (
    <Part
      words={words}
      label={label}
      open={open === place}
      fixed={!mayChange}
      onToggle={() => onOpen(open === place ? undefined : place)}
    >
      {editor}
    </Part>
  );
  switch (kindOfStep(step)) {
    case 'give': {
      const give = step.give ?? { to: [] };
      return (
        <>
          give{' '}
          {part(
            targetsInWords(give.to, names, 'and'),
            'What it gives',
            <>
              <TargetsEditor
                chosen={give.to}
                known={known}
                ofRow
                onChange={(to) => put({ give: { ...give, to } })}
              />
              {give.length === undefined ? (
                <Button
                  small
                  type="button"
                  className="justify-self-start"
                  onClick={() => put({ give: { ...give, length: 'P1Y' } })}
                >
                  For a time only
                </Button>
              ) : (
                <span className="flex flex-wrap items-center gap-2">
                  for <Period value={give.length} onChange={(length) => put({ give: { ...give, length } })} />
                  <Button small type="button" onClick={() => put({ give: { to: give.to } })}>
                    {lasts}
                  </Button>
                </span>
              )}
            </>,
          )}
          {give.length !== undefined && ` for ${periodInWords(give.length)}`}
        </>
      );
    }
    case 'take': {
      const from = step.take?.from ?? [];
      return (
        <>
          take{' '}
          {part(
            targetsInWords(from, names, 'and'),
            'What it takes away',
            <TargetsEditor
              chosen={from}
              known={known}
              ofRow
              onChange={(chosen) => put({ take: { from: chosen } })}
            />,
          )}{' '}
          away
        </>
      );
    }
    case 'set': {
      const { field, value } = step.set ?? { field: '', value: '' };
      return (
        <>
          the field{' '}
          {part(
            `${field} becomes “${value}”`,
            'The field',
            <>
              {known.lacking.fields && (
                <Notice>No system that is on keeps fields of people: only follow-ups would know it.</Notice>
              )}
              <Field
                label="Field"
                value={field}
                maxLength={200}
                onValue={(next) => put({ set: { field: next, value } })}
              />
              <Field
                label="What it says then"
                value={value}
                maxLength={500}
                hint="Placeholders such as {{thing.title}} can stand in it."
                onValue={(next) => put({ set: { field, value: next } })}
              />
            </>,
          )}
        </>
      );
    }
    case 'write': {
      const write = step.write ?? { subject: '', text: '' };
      return (
        <>
          they are written{' '}
          {part(
            `“${write.subject}”`,
            'The letter',
            <>
              <Field
                label="Subject"
                value={write.subject}
                maxLength={500}
                onValue={(subject) => put({ write: { ...write, subject } })}
              />
              {known.lacking.letters && (
                <Notice>No system that is on carries letters: the run would be held up here.</Notice>
              )}
              <TextWithPlaceholders
                label="Text"
                value={write.text}
                offered={placeholders(known.columns, write.code !== undefined)}
                onChange={(text) => put({ write: { ...write, text } })}
              />
              <CodeEditor
                code={write.code}
                known={known}
                onChange={(code) => {
                  const rest = without(write, 'code');
                  put({ write: code === undefined ? rest : { ...rest, code } });
                }}
              />
            </>,
          )}
          {write.code !== undefined && ` with ${codeInWords(write.code, names)}`}
        </>
      );
    }
    case 'tell':
      return (
        <>
          the team is told{' '}
          {part(
            `“${step.tell?.text ?? ''}”`,
            'What the team is told',
            <TextWithPlaceholders
              label="Text"
              value={step.tell?.text ?? ''}
              offered={placeholders(known.columns, false)}
              onChange={(text) => put({ tell: { text } })}
            />,
          )}
        </>
      );
    case 'wait': {
      const wait = step.wait ?? 'P3D';
      return (
        <>
          wait{' '}
          {part(
            typeof wait === 'string' ? periodInWords(wait) : `until it is ${wait.at}`,
            'How long it waits',
            typeof wait === 'string' ? (
              <span className="flex flex-wrap items-center gap-2">
                <Period value={wait} onChange={(period) => put({ wait: period })} />
                <Button small type="button" onClick={() => put({ wait: { at: '09:00' } })}>
                  Until a time of the day
                </Button>
              </span>
            ) : (
              <span className="flex flex-wrap items-end gap-2">
                <Field
                  label="Time of the day, in the school"
                  type="time"
                  value={wait.at}
                  onValue={(at) => put({ wait: { at } })}
                />
                <Button small type="button" onClick={() => put({ wait: 'P3D' })}>
                  So many days
                </Button>
              </span>
            ),
          )}
        </>
      );
    }
    case 'if':
      return (
        <>
          <strong>if</strong>{' '}
          {part(
            conditionsInWords(step.if ?? [], names),
            'The condition',
            <ConditionsEditor
              conditions={step.if ?? []}
              known={known}
              onChange={(conditions) => conditions.length > 0 && put({ ...step, if: conditions })}
            />,
          )}
        </>
      );
    case 'stop':
      return <strong>stop here</strong>;
  }
}

/** Chooses what is done next. */
function AddStep({
  small = false,
  open,
  onOpen,
  onAdd,
}: {
  small?: boolean;
  open?: boolean;
  onOpen?: (open: boolean) => void;
  onAdd: (kind: StepKind) => void;
}) {
  const select = useRef<HTMLSelectElement>(null);
  useEffect(() => {
    if (open !== true) return;
    select.current?.focus();
    onOpen?.(false);
  }, [open, onOpen]);
  return (
    <div className="flex items-center gap-2">
      <select
        ref={select}
        aria-label="Add a step"
        className={`select w-auto border-edge ${small ? 'select-sm' : ''}`}
        value=""
        onChange={(event) => onAdd(event.target.value as StepKind)}
      >
        <option value="" disabled>
          Add a step …
        </option>
        {Object.entries(STEP_WORDS).map(([kind, words]) => (
          <option key={kind} value={kind}>
            {words}
          </option>
        ))}
      </select>
      {!small && (
        <kbd className="rounded-[3px] border border-edge px-1 font-code text-[0.62rem]" aria-hidden="true">
          A
        </kbd>
      )}
    </div>
  );
}
