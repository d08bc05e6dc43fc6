import { useNavigate, useSearch } from '@tanstack/react-router';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { Empty, Margin, Screen } from '../ui/parts';
import { Consequence } from './Consequence';
import { cellKey, contested, effectiveCells, isEmpty, type CellKey, type Published } from './draft';
import { Grid } from './Grid';
import { Lists } from './Lists';
import { at, includes, type Selection } from './selection';
import { shown, used, withDrafted, type Grid as Whole, type SourceRow, type TargetColumn } from './shown';
import { StaleDraft } from './StaleDraft';
import { FIRST_TERMS, inWords, type Terms } from './terms';
import { TermsEditor } from './TermsEditor';
import { useDraft } from './useDraft';

interface Props {
  grid: Whole;
  now: Published;
  headline: ReactNode;
  readAgain: () => Promise<void>;
}

/** The grid, and in the margin the terms being edited and what the draft would change. */
export function Workspace({ grid: inForce, now, headline, readAgain }: Props) {
  const [draft, change] = useDraft();
  const grid = useMemo(() => withDrafted(inForce, draft), [inForce, draft]);
  const [filter, setFilter] = useState('');
  const [unfinished, setUnfinished] = useState(false);
  const [everything, setEverything] = useState(false);
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set());
  const [editing, setEditing] = useState(false);
  const [copied, setCopied] = useState<Terms>();
  const [helping, setHelping] = useState(false);
  const gridPlace = useRef<HTMLDivElement>(null);
  const filterPlace = useRef<HTMLInputElement>(null);

  const { view } = useSearch({ from: '/mapping' });
  const by = view === 'by-source' ? 'source' : view === 'by-target' ? 'target' : undefined;
  const inUse = useMemo(() => used(effectiveCells(draft, now), grid), [draft, now, grid]);
  const { sources, targets } = useMemo(
    () =>
      shown(grid, inUse, { words: filter, unfinished, everything: everything || by !== undefined, unfolded }),
    [grid, inUse, filter, unfinished, everything, by, unfolded],
  );
  const [selection, setSelection] = useJump(sources, targets);
  const selected = useMemo(
    () =>
      sources.flatMap((source, row) =>
        targets
          .filter((_, column) => includes(selection, row, column))
          .map((target) => cellKey(source.source, target.target)),
      ),
    [sources, targets, selection],
  );
  const source = sources[selection.row];
  const target = targets[selection.column];
  const focused = source && target && (inUse.cells.get(cellKey(source.source, target.target)) ?? null);

  const set = (cells: [CellKey, Terms | null][]) =>
    change({ act: 'set', cells, published: now, version: grid.version });
  const setSelected = (terms: Terms | null) => set(selected.map((key) => [key, terms]));
  const toggle = () => setSelected(focused == null ? (copied ?? FIRST_TERMS) : null);
  const backToGrid = () => gridPlace.current?.querySelector<HTMLElement>('[tabindex="0"]')?.focus();

  const onKey = (key: string, ctrl: boolean, shift: boolean): boolean => {
    if (ctrl && key.toLowerCase() === 'z') change({ act: shift ? 'redo' : 'undo' });
    else if (ctrl && key.toLowerCase() === 'y') change({ act: 'redo' });
    else if (ctrl && key === ' ') setSelection({ ...selection, anchorRow: 0, row: sources.length - 1 });
    else if (ctrl) return false;
    else if (key === ' ' && shift)
      setSelection({ ...selection, anchorColumn: 0, column: targets.length - 1 });
    else if (key === ' ') toggle();
    else if (key === 'Delete' || key === 'Backspace') setSelected(null);
    else if (key === 'Enter') {
      if (focused === null) setSelected(copied ?? FIRST_TERMS);
      setEditing(true);
    } else if (key.toLowerCase() === 'c') setCopied(focused ?? undefined);
    else if (key.toLowerCase() === 'v') {
      if (copied !== undefined) setSelected(copied);
    } else if (key === '/') filterPlace.current?.focus();
    else if (key === '?') setHelping(!helping);
    else return false;
    return true;
  };

  const stale = !isEmpty(draft) && draft.base !== grid.version;
  return (
    <Screen
      margin={
        <Margin label="What follows">
          {stale && (
            <StaleDraft
              version={grid.version}
              contested={contested(draft, now)}
              grid={grid}
              onCarryOver={() => change({ act: 'carry-over', published: now, version: grid.version })}
              onDiscard={() => change({ act: 'discard' })}
            />
          )}
          {editing && source !== undefined && target !== undefined && focused != null && (
            <TermsEditor
              key={cellKey(source.source, target.target)}
              title={selected.length > 1 ? `${selected.length} cells` : `${source.title} → ${target.title}`}
              opener={source}
              targetSort={target.sort}
              tiers={grid.tiers}
              terms={focused}
              onChange={setSelected}
              onClose={() => {
                setEditing(false);
                backToGrid();
              }}
            />
          )}
          <Consequence
            draft={draft}
            grid={grid}
            stale={stale}
            onTake={(cells) =>
              set(cells.map((cell) => [cellKey(cell.source, cell.target), cell.terms ?? null]))
            }
            onDiscard={() => change({ act: 'discard' })}
            onPublished={async () => {
              change({ act: 'discard' });
              setEditing(false);
              await readAgain();
            }}
            onRefused={readAgain}
          />
        </Margin>
      }
    >
      <div className="headline">
        {headline}
        <input
          ref={filterPlace}
          type="search"
          className="input"
          aria-label="Filter products and courses"
          placeholder="Filter   /"
          value={filter}
          onChange={(event) => setFilter(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Escape') setFilter('');
            if (event.key === 'Escape' || event.key === 'Enter') backToGrid();
          }}
        />
        <label className="check">
          <input
            type="checkbox"
            className="checkbox"
            checked={unfinished}
            onChange={(event) => setUnfinished(event.target.checked)}
          />
          only unfinished
        </label>
        <label className="check">
          <input
            type="checkbox"
            className="checkbox"
            checked={everything}
            onChange={(event) => setEverything(event.target.checked)}
          />
          all rows
        </label>
      </div>
      {sources.length === 0 || targets.length === 0 ? (
        <Empty title={unfinished && filter === '' ? 'Nothing is unfinished.' : 'Nothing is called that.'}>
          <button
            className="btn"
            onClick={() => {
              setFilter('');
              setUnfinished(false);
            }}
          >
            Show all
          </button>
        </Empty>
      ) : by !== undefined ? (
        <Lists
          by={by}
          sources={sources}
          targets={targets}
          all={grid}
          inUse={inUse}
          draft={draft}
          onSet={set}
          onEdit={(row, column) => {
            const [down, across] = [sources.indexOf(row), targets.indexOf(column)];
            if (down < 0 || across < 0) return; // the filter leaves it out
            setSelection(at(down, across));
            setEditing(true);
          }}
        />
      ) : (
        <Grid
          place={gridPlace}
          sources={sources}
          targets={targets}
          all={grid}
          inUse={inUse}
          draft={draft}
          selection={selection}
          unfolded={unfolded}
          onUnfold={(course) =>
            setUnfolded((before) =>
              before.has(course)
                ? new Set([...before].filter((one) => one !== course))
                : new Set([...before, course]),
            )
          }
          onSelect={setSelection}
          onKey={onKey}
          onOpen={() => onKey('Enter', false, false)}
        />
      )}
      <p className="said" aria-live="polite" hidden={by !== undefined}>
        {source !== undefined &&
          target !== undefined &&
          (selected.length > 1
            ? `${selected.length} cells selected.`
            : `${source.title} ${focused == null ? 'does not open' : 'opens'} ${target.title}${focused == null ? '' : ` ${inWords(focused, source)}`}.`)}
        {copied !== undefined && ` Copied: ${inWords(copied)}.`}
      </p>
      {by === undefined && <Keys all={helping} onHelp={() => setHelping(!helping)} />}
    </Screen>
  );
}

/** The selection; begins at the source or target that the address names. */
function useJump(sources: SourceRow[], targets: TargetColumn[]): [Selection, (selection: Selection) => void] {
  const search = useSearch({ from: '/mapping' });
  const navigate = useNavigate({ from: '/mapping' });
  const row = sources.findIndex((source) => source.source === `product/${search.product ?? ''}`);
  const column = targets.findIndex((target) => target.target === `course/${search.course ?? ''}`);
  const [selection, setSelection] = useState(() => at(Math.max(0, row), Math.max(0, column)));
  useEffect(() => {
    if (search.product !== undefined || search.course !== undefined) {
      void navigate({ search: (previous) => ({ at: previous.at }), replace: true });
    }
  }, [search, navigate]);
  const inside = at(
    Math.min(selection.row, sources.length - 1),
    Math.min(selection.column, targets.length - 1),
  );
  const fits = selection.row < sources.length && selection.column < targets.length;
  return [fits ? selection : inside, setSelection];
}

const KEYS: [keys: string[], does: string, seldom?: true][] = [
  [['↑', '↓', '←', '→'], 'move'],
  [['Space'], 'open or close'],
  [['Enter'], 'terms'],
  [['C', 'V'], 'copy terms'],
  [['Ctrl Z'], 'undo'],
  [['Ctrl Y'], 'redo', true],
  [['Shift ↑ ↓ ← →'], 'select more', true],
  [['Shift Space'], 'the whole row', true],
  [['Ctrl Space'], 'the whole column', true],
  [['Delete'], 'close', true],
  [['/'], 'filter', true],
  [['[', ']'], 'another day', true],
];

function Keys({ all, onHelp }: { all: boolean; onHelp: () => void }) {
  return (
    <p className="keys">
      {KEYS.filter(([, , seldom]) => all || seldom === undefined).map(([keys, does]) => (
        <span key={does}>
          {keys.map((key) => (
            <kbd key={key}>{key}</kbd>
          ))}{' '}
          {does}
        </span>
      ))}
      <button className="link" onClick={onHelp} aria-expanded={all}>
        <kbd>?</kbd> {all ? 'fewer keys' : 'all keys'}
      </button>
    </p>
  );
}
