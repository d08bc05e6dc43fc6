import { useState } from 'react';
import { cellKey, type CellKey, type Draft } from './draft';
import type { Around, Grid, SourceRow, TargetColumn, Used } from './shown';
import { canOpen, choiceInWords, choosing, firstTerms, isSeldom, opensSomething, waysAround } from './shown';
import { inWords, type Terms } from './terms';
import type { Level } from './things';
import { Row, Rows, RowWords, Select, TextButton } from '../ui/kit';

interface Props {
  by: 'source' | 'target';
  sources: SourceRow[];
  targets: TargetColumn[];
  all: Grid;
  inUse: Used;
  draft: Draft;
  /** Were the draft published. */
  levels: Level[];
  onEdit: (source: SourceRow, target: TargetColumn) => void;
  onSet: (cells: [CellKey, Terms | null][]) => void;
}

interface Entry {
  source: SourceRow;
  target: TargetColumn;
}

function isPossible({ source, target }: Entry): boolean {
  return canOpen(source.source, target.target);
}

/** The same draft as lists: what each source opens, or the ways into each target. */
export function Lists({ by, sources, targets, all, inUse, draft, levels, onEdit, onSet }: Props) {
  const heads: (SourceRow | TargetColumn)[] = by === 'source' ? sources : targets;
  const pairs = (head: SourceRow | TargetColumn): Entry[] =>
    'source' in head
      ? all.targets.map((target) => ({ source: head, target })).filter(isPossible)
      : all.sources.map((source) => ({ source, target: head })).filter(isPossible);
  return (
    <Rows className="[&>li]:items-start">
      {heads.map((head) => {
        const path = 'source' in head ? head.source : head.target;
        const known = pairs(head).filter(({ source, target }) => {
          const key = cellKey(source.source, target.target);
          return inUse.cells.has(key) || draft.changes[key] !== undefined;
        });
        if (known.length === 0 && isSeldom(head.sort)) return null;
        const rest = pairs(head).filter((pair) => !known.includes(pair));
        return (
          <Row key={path}>
            <RowWords>
              <strong>
                {by === 'target' && <span className="text-soft">The ways into </span>}
                {head.title}
                <Gap head={head} all={all} inUse={inUse} />
              </strong>
              <ul className="mt-1 grid gap-1">
                {known.map((entry) => (
                  <Way
                    key={cellKey(entry.source.source, entry.target.target)}
                    entry={entry}
                    title={by === 'source' ? entry.target.title : entry.source.title}
                    inUse={inUse}
                    draft={draft}
                    onEdit={onEdit}
                    onSet={onSet}
                  />
                ))}
                {'target' in head &&
                  waysAround(inUse, head).map((way) => (
                    <li key={way.key}>
                      {all.sources.find((row) => row.source === way.source)?.title ?? way.source}{' '}
                      <ByCategory way={way} all={all} onSet={onSet} />
                    </li>
                  ))}
                {'target' in head &&
                  choosing(levels, head).map(({ level, allowance }) => (
                    <li key={level.id}>
                      {level.title ?? level.id} <span className="text-soft">{choiceInWords(allowance)}</span>
                    </li>
                  ))}
              </ul>
            </RowWords>
            <More
              label={by === 'source' ? `Let ${head.title} open` : `Another way into ${head.title}`}
              entries={rest}
              by={by}
              onAdd={({ source, target }) =>
                onSet([[cellKey(source.source, target.target), firstTerms(source, inUse)]])
              }
            />
          </Row>
        );
      })}
    </Rows>
  );
}

interface ByCategoryProps {
  way: Around;
  all: Grid;
  onSet: Props['onSet'];
}

/** What a way through a category is, and the act that leaves one course out of it. */
export function ByCategory({ way, all, onSet }: ByCategoryProps) {
  const { key, words, terms, without } = way;
  return (
    <>
      <span className="text-soft">
        {words},{' '}
        {inWords(
          terms,
          all.sources.find((row) => row.source === way.source),
        )}
      </span>{' '}
      {without !== undefined && (
        <TextButton aria-label={`${words}, but not this one`} onClick={() => onSet([[key, without]])}>
          But not this one
        </TextButton>
      )}
    </>
  );
}

function Gap({ head, all, inUse }: { head: SourceRow | TargetColumn; all: Grid; inUse: Used }) {
  if ('source' in head) {
    return head.sort === 'product' && !head.thing && !opensSomething(head, all, inUse) ? (
      <span className="text-warning"> opens nothing</span>
    ) : null;
  }
  return head.sort === 'course' && !inUse.targets.has(head.target) ? (
    <span className="text-warning"> no way in</span>
  ) : null;
}

interface WayProps {
  entry: Entry;
  title: string;
  inUse: Used;
  draft: Draft;
  onEdit: Props['onEdit'];
  onSet: Props['onSet'];
}

function Way({ entry, title, inUse, draft, onEdit, onSet }: WayProps) {
  const { source, target } = entry;
  const key = cellKey(source.source, target.target);
  const terms = inUse.cells.get(key);
  const changed = draft.changes[key] !== undefined;
  if (terms === undefined) {
    return (
      <li>
        <s>{title}</s> <span className="text-soft">no longer, in your draft</span>{' '}
        <TextButton onClick={() => onSet([[key, draft.changes[key]?.was ?? null]])}>Keep it</TextButton>
      </li>
    );
  }
  return (
    <li>
      <TextButton onClick={() => onEdit(source, target)}>{title}</TextButton> {inWords(terms, source)}
      {changed && <span className="text-warning"> draft</span>}{' '}
      <TextButton aria-label={`Close ${source.title} → ${target.title}`} onClick={() => onSet([[key, null]])}>
        Close
      </TextButton>
    </li>
  );
}

interface MoreProps {
  label: string;
  entries: Entry[];
  by: Props['by'];
  onAdd: (entry: Entry) => void;
}

function More({ label, entries, by, onAdd }: MoreProps) {
  const [value] = useState('');
  return (
    <Select
      aria-label={label}
      value={value}
      onChange={(event) => {
        const entry = entries[Number(event.target.value)];
        if (entry !== undefined) onAdd(entry);
      }}
    >
      <option value="" disabled>
        {by === 'source' ? 'open …' : 'by …'}
      </option>
      {entries.map((entry, at) => (
        <option key={entry.source.source + entry.target.target} value={at}>
          {by === 'source' ? entry.target.title : entry.source.title}
        </option>
      ))}
    </Select>
  );
}
