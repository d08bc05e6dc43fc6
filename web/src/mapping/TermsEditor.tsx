import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { Schemas } from '../api/client';
import { useSession } from '../session/session';
import { dayOf } from '../ui/dates';
import { Day } from './inputs';
import {
  forThoseWhoHaveIt,
  fromNowOn,
  heldInWords,
  inWords,
  isBought,
  onCell,
  type Opener,
  type Terms,
} from './terms';
import { without } from './things';
import { Acts, Button, Check, type Choice, Choices, Input, Period, Select } from '../ui/kit';

interface Props {
  title: string;
  opener: Opener;
  /** Of what is opened. */
  targetSort: string;
  tiers: string[];
  terms: Terms;
  /** Those that the school keeps under a name; none where these are some of them. */
  shared?: Schemas['SharedTerms'][];
  onChange: (terms: Terms) => void;
  /** Keeps the terms under a name. */
  onKeep?: (title: string, terms: Terms) => void;
  onClose: () => void;
  /** What they would do. */
  children?: ReactNode;
}

/** Edits the terms of the selected cells; each change goes into the draft at once. */
export function TermsEditor(props: Props) {
  const { title, opener, targetSort, tiers, terms, shared, onChange, onKeep, onClose, children } = props;
  const form = useRef<HTMLFormElement>(null);
  useEffect(() => form.current?.querySelector<HTMLElement>('input:checked')?.focus(), []);
  const bought = isBought(opener.sort);
  const parted = targetSort === 'course' || targetSort === 'category';
  return (
    // Escape and Enter close it from wherever in it one is
    // eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <form
      ref={form}
      className="grid content-start gap-3 rounded-box border border-line bg-base-100 p-4 xl:max-h-[calc(100dvh-13rem)] xl:w-86 xl:shrink-0 xl:overflow-y-auto"
      aria-label={`Terms: ${title}`}
      onSubmit={(event) => {
        event.preventDefault();
        onClose();
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape') onClose();
      }}
    >
      <h2>{title}</h2>
      {shared !== undefined && shared.length > 0 && (
        <Check>
          These are
          <Select
            aria-label="Terms under a name"
            value={terms.named ?? ''}
            onChange={(event) => {
              const chosen = shared.find((one) => one.id === event.target.value);
              onChange(
                chosen === undefined
                  ? left(terms, 'named', undefined)
                  : { ...chosen.terms, ...onCell(terms), named: chosen.id },
              );
            }}
          >
            <option value="">its own terms</option>
            {shared.map((one) => (
              <option key={one.id} value={one.id}>
                “{one.title}”
              </option>
            ))}
          </Select>
        </Check>
      )}
      {terms.named === undefined ? (
        <HowLong opener={opener} terms={terms} onChange={onChange} />
      ) : (
        <p className="text-soft">
          {inWords(terms, opener)}. They are changed under Catalogue, for every cell that uses them.
        </p>
      )}
      <details open={isMore(terms)} className="[&>*+*]:mt-3">
        <summary className="cursor-pointer font-semibold">
          More: from when, until when, again, which part, for whom
        </summary>
        {terms.named === undefined && <FromTo bought={bought} terms={terms} onChange={onChange} />}
        {parted && tiers.length > 0 && (
          <Choices
            legend="Which part?"
            value={terms.tier ?? ''}
            onChoose={(to) => onChange(left(terms, 'tier', to === '' ? undefined : to))}
            choices={[['', 'all sections'], ...tiers.map((tier): Choice => [tier, `up to ${tier}`])]}
          />
        )}
        {shared !== undefined && <ForWhom bought={bought} terms={terms} onChange={onChange} />}
      </details>
      <p className="text-soft">
        {bought
          ? 'Counted from the payment, in the school’s time zone; an order of nothing counts as paid.'
          : 'Counted from when it begins to be held, in the school’s time zone.'}{' '}
        So: open {inWords(terms, opener)}.
      </p>
      {children}
      {onKeep !== undefined && terms.named === undefined && <Keep onKeep={(name) => onKeep(name, terms)} />}
      <Button small>
        Done <kbd className="font-code text-2xs font-normal text-soft">Enter</kbd>
      </Button>
    </form>
  );
}

interface PartProps {
  terms: Terms;
  onChange: (terms: Terms) => void;
}

function HowLong({ opener, terms, onChange }: PartProps & { opener: Opener }) {
  const bought = isBought(opener.sort);
  return (
    <>
      <Choices
        legend="Open for how long?"
        value={terms.length === 'held' ? 'held' : 'for'}
        onChoose={(to) => onChange({ ...terms, length: to === 'held' ? 'held' : 'P1Y' })}
        choices={[
          ['held', heldInWords(opener)],
          [
            'for',
            'for',
            <Period key="for" value={terms.length} onChange={(length) => onChange({ ...terms, length })} />,
          ],
        ]}
      />
      {bought && (
        <Choices
          legend="When the money is given back"
          value={terms.refund}
          onChoose={(refund) => onChange({ ...terms, refund })}
          choices={[
            ['end', 'it closes'],
            ['keep', 'it stays open'],
          ]}
        />
      )}
    </>
  );
}

function FromTo({ bought, terms, onChange }: PartProps & { bought: boolean }) {
  const { zone } = useSession();
  const today = dayOf(new Date(), zone);
  return (
    <>
      <Choices
        legend="From when?"
        value={terms.starts?.after !== undefined ? 'after' : terms.starts?.at !== undefined ? 'at' : 'once'}
        onChoose={(to) =>
          onChange(
            left(
              terms,
              'starts',
              to === 'after'
                ? { after: 'P3D' }
                : to === 'at'
                  ? { at: `${today.toString()}T00:00:00` }
                  : undefined,
            ),
          )
        }
        choices={[
          ['once', 'at once'],
          [
            'after',
            'later by',
            <Period
              key="after"
              value={terms.starts?.after}
              onChange={(after) => onChange({ ...terms, starts: { after } })}
            />,
          ],
          [
            'at',
            'not before',
            <Day
              key="at"
              label="The first day"
              value={terms.starts?.at}
              onChange={(at) => onChange({ ...terms, starts: { at } })}
            />,
          ],
        ]}
      />
      <Choices
        legend="Until when, at the latest?"
        value={terms.until === undefined ? 'open' : 'until'}
        onChoose={(to) =>
          onChange(
            left(
              terms,
              'until',
              to === 'until' ? `${today.add({ years: 1 }).toString()}T00:00:00` : undefined,
            ),
          )
        }
        choices={[
          ['open', 'no such day'],
          [
            'until',
            'closed from',
            <Day
              key="until"
              label="Closed from this day"
              value={terms.until}
              onChange={(until) => onChange({ ...terms, until })}
            />,
          ],
        ]}
      />
      {bought && terms.length !== 'held' && (
        <Choices
          legend="And when it comes again meanwhile?"
          value={terms.repeat ?? 'overlap'}
          onChoose={(to) => onChange(left(terms, 'repeat', to === 'extend' ? to : undefined))}
          choices={[
            ['overlap', 'it counts from then, beside the first'],
            ['extend', 'its time is added at the end'],
          ]}
        />
      )}
      {bought && terms.refund === 'end' && (
        <Check>
          closes once
          <Input
            type="number"
            className="w-18"
            min={1}
            max={100}
            value={Math.round((terms.refundShare ?? 1) * 100)}
            onChange={(event) => {
              const share = Number(event.target.value);
              if (share >= 1 && share <= 100)
                onChange(left(terms, 'refundShare', share === 100 ? undefined : share / 100));
            }}
          />
          % of what was paid is given back
        </Check>
      )}
    </>
  );
}

function ForWhom({ bought, terms, onChange }: PartProps & { bought: boolean }) {
  return (
    <Choices
      legend="For whom?"
      value={terms.applies?.from !== undefined ? 'new' : terms.applies?.until !== undefined ? 'old' : 'all'}
      onChoose={(to) => {
        const unbound = left(terms, 'applies', undefined);
        onChange(to === 'new' ? fromNowOn(unbound) : to === 'old' ? forThoseWhoHaveIt(unbound) : unbound);
      }}
      choices={[
        ['all', bought ? 'past buyers too' : 'everybody who has it'],
        ['new', bought ? 'purchases from now on only' : 'whoever gets it from now on'],
        ['old', 'those who have it keep it; nobody gets it any more'],
      ]}
    />
  );
}

/** Gives the terms a name, so that other cells can use them. */
function Keep({ onKeep }: { onKeep: (title: string) => void }) {
  const [title, setTitle] = useState('');
  return (
    <Acts className="items-center">
      <Input
        aria-label="A name for these terms"
        placeholder="a name for these terms"
        maxLength={100}
        value={title}
        onChange={(event) => setTitle(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          if (title.trim() !== '') onKeep(title.trim());
        }}
      />
      <Button small type="button" disabled={title.trim() === ''} onClick={() => onKeep(title.trim())}>
        Keep
      </Button>
    </Acts>
  );
}

function isMore(terms: Terms): boolean {
  return [terms.starts, terms.until, terms.repeat, terms.tier, terms.applies, terms.refundShare].some(
    (part) => part !== undefined,
  );
}

/** The terms with one part set, or left out. */
function left<Key extends keyof Terms>(terms: Terms, key: Key, value: Terms[Key] | undefined): Terms {
  const rest = without(terms, key);
  return (value === undefined ? rest : { ...rest, [key]: value }) as Terms;
}
