import { Link, useSearch } from '@tanstack/react-router';
import { useEffect, useMemo, useRef, useState, type ReactNode, type RefObject } from 'react';
import { api, type Schemas } from '../api/client';
import { isTyping } from '../band/keys';
import { cellKey, cellOf, effectiveCells, type CellKey } from './draft';
import { DraftMargin, type Shared } from './DraftMargin';
import { FoundHere } from './FoundHere';
import { Grid } from './Grid';
import { Keys } from './Keys';
import { ByCategory, Lists } from './Lists';
import { Sample } from './Sample';
import { at, block, includes, pasted, type Selection } from './selection';
import {
  canOpen,
  choiceInWords,
  choosing,
  covering,
  firstTerms,
  sharedTerms,
  shown,
  used,
  withDrafted,
  type SourceRow,
} from './shown';
import { asShared, FIRST_TERMS, inWords, onCell, type Terms } from './terms';
import { TermsEditor } from './TermsEditor';
import { useSelection } from './useSelection';
import { all, idFor } from './things';
import { Button, Check, Checkbox, Empty, Facts, Headline, Input, Screen } from '../ui/kit';

/** The grid, and in the margin the terms being edited and what the draft would change. */
export function Workspace({ headline, ...shared }: Shared) {
  const { grid: inForce, now, draft, change } = shared;
  const grid = useMemo(() => withDrafted(inForce, draft), [inForce, draft]);
  const [filter, setFilter] = useState('');
  const [unfinished, setUnfinished] = useState(false);
  const [everything, setEverything] = useState(false);
  const [turned, setTurned] = useState<ReadonlySet<string>>(new Set());
  const [editing, setEditing] = useState(false);
  const [copied, setCopied] = useState<(Terms | null)[][]>();
  const [helping, setHelping] = useState(false);
  const gridPlace = useRef<HTMLDivElement>(null);
  const filterPlace = useRef<HTMLInputElement>(null);

  const { view } = useSearch({ from: '/mapping' });
  const by = view === 'by-source' ? 'source' : view === 'by-target' ? 'target' : undefined;
  const inUse = useMemo(() => used(effectiveCells(draft, now), grid), [draft, now, grid]);
  const { sources, targets } = useMemo(
    () =>
      shown(grid, inUse, { words: filter, unfinished, everything: everything || by !== undefined, turned }),
    [grid, inUse, filter, unfinished, everything, by, turned],
  );
  const findings = api.useQuery('get', '/api/findings', undefined, { refetchInterval: 10_000 });
  const found = useMemo(() => bySubject(findings.data ?? []), [findings.data]);
  const [selection, setSelection] = useSelection(sources, targets);
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

  const levels = useMemo(() => all(shared.things, draft, 'level'), [shared.things, draft]);
  const roundabout =
    source === undefined || target === undefined || focused !== null ? [] : covering(inUse, source, target);
  const choices =
    source?.sort === 'level' && target !== undefined
      ? choosing(levels, target).filter(({ level }) => `level/${level.id}` === source.source)
      : [];

  const set = (cells: [CellKey, Terms | null][]) =>
    change({
      act: 'set',
      cells: cells.filter(([key]) => canOpen(...cellOf(key))),
      published: now,
      version: grid.version,
    });
  const setSelected = (terms: Terms | null) => set(selected.map((key) => [key, terms]));
  const open = () =>
    set(
      selected.map((key) => {
        const row = sources.find((one) => one.source === cellOf(key)[0]);
        return [key, copied?.[0]?.[0] ?? (row === undefined ? FIRST_TERMS : firstTerms(row, inUse))];
      }),
    );
  const toggle = () => (focused == null ? open() : setSelected(null));
  const copy = () => {
    const { rows, columns } = block(selection);
    setCopied(
      rows.map((row) =>
        columns.map((column) => {
          const [from, to] = [sources[row], targets[column]];
          return (from && to && inUse.cells.get(cellKey(from.source, to.target))) ?? null;
        }),
      ),
    );
  };
  const paste = (from: (Terms | null)[][]) => {
    const cells: [CellKey, Terms | null][] = [];
    for (const { row, column, value } of pasted(selection, from, sources.length, targets.length)) {
      const [source, target] = [sources[row], targets[column]];
      if (source && target) cells.push([cellKey(source.source, target.target), value]);
    }
    set(cells);
  };
  useSlash(filterPlace);
  const backToGrid = () => gridPlace.current?.querySelector<HTMLElement>('[tabindex="0"]')?.focus();
  const terms = useMemo(() => sharedTerms(grid, draft), [grid, draft]);
  const keep = (title: string, these: Terms) => {
    const id = idFor(title, (taken) => terms.some((one) => one.id === taken));
    change({
      act: 'set',
      cells: selected.map((key) => {
        const there = inUse.cells.get(key);
        return [key, { ...these, ...(there !== undefined && onCell(there)), named: id }];
      }),
      things: [[`terms/${id}`, { id, title, terms: asShared(these) }, null]],
      published: now,
      version: grid.version,
    });
  };

  const onKey = (key: string, ctrl: boolean, shift: boolean): boolean => {
    if (ctrl && key.toLowerCase() === 'z') change({ act: shift ? 'redo' : 'undo' });
    else if (ctrl && key.toLowerCase() === 'y') change({ act: 'redo' });
    else if (ctrl && key === ' ' && shift) setSelection(wholeCategory(selection, sources));
    else if (ctrl && key === ' ') setSelection({ ...selection, anchorRow: 0, row: sources.length - 1 });
    else if (ctrl) return false;
    else if (key === ' ' && shift)
      setSelection({ ...selection, anchorColumn: 0, column: targets.length - 1 });
    else if (key === ' ') toggle();
    else if (key === 'Delete' || key === 'Backspace') setSelected(null);
    else if (key === 'Enter') {
      if (focused === null) open();
      setEditing(true);
    } else if (key.toLowerCase() === 'c') copy();
    else if (key.toLowerCase() === 'v') {
      if (copied !== undefined) paste(copied);
    } else if (key === '?') setHelping(!helping);
    else return false;
    return true;
  };

  const editor = editing && source !== undefined && target !== undefined && focused != null && (
    <TermsEditor
      key={cellKey(source.source, target.target)}
      title={selected.length > 1 ? `${selected.length} cells` : `${source.title} → ${target.title}`}
      opener={source}
      targetSort={target.sort}
      tiers={grid.tiers}
      terms={focused}
      shared={terms}
      onChange={setSelected}
      onKeep={keep}
      onClose={() => {
        setEditing(false);
        backToGrid();
      }}
    >
      <Sample cell={cellKey(source.source, target.target)} draft={draft} />
    </TermsEditor>
  );

  return (
    <Screen
      margin={
        <DraftMargin {...shared} grid={grid} onPublished={() => setEditing(false)}>
          {by === undefined && <FoundHere findings={found} subjects={[source?.source, target?.target]} />}
          {by === undefined && source !== undefined && target !== undefined && roundabout.length > 0 && (
            <section className="[&>p]:mt-2 [&>p]:text-soft" aria-label="Opened by another link">
              <h2>
                {source.title} opens {target.title} by another link
              </h2>
              <Facts>
                {roundabout.map((way) => (
                  <li key={way.key}>
                    <p>
                      <ByCategory way={way} all={grid} onSet={set} />
                    </p>
                  </li>
                ))}
              </Facts>
            </section>
          )}
          {by === undefined &&
            choices.map(({ level, allowance }) => (
              <p key={level.id} className="text-soft">
                {target?.title} {choiceInWords(allowance)}, by the allowance of{' '}
                <Link to="/mapping" search={{ view: 'catalogue', thing: `level/${level.id}` }}>
                  {level.title ?? level.id}
                </Link>
                .
              </p>
            ))}
        </DraftMargin>
      }
    >
      <Headline>
        {headline}
        <Input
          ref={filterPlace}
          className="ml-auto w-28"
          type="search"
          aria-label="Filter products and courses"
          placeholder="Filter   /"
          value={filter}
          onChange={(event) => setFilter(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Escape') setFilter('');
            if (event.key === 'Escape' || event.key === 'Enter') backToGrid();
          }}
        />
        <Check>
          <Checkbox checked={unfinished} onChange={(event) => setUnfinished(event.target.checked)} />
          only unfinished
        </Check>
        <Check>
          <Checkbox checked={everything} onChange={(event) => setEverything(event.target.checked)} />
          all rows
        </Check>
      </Headline>
      {sources.length === 0 || targets.length === 0 ? (
        <Empty title={unfinished && filter === '' ? 'Nothing is unfinished.' : 'Nothing is called that.'}>
          <Button
            onClick={() => {
              setFilter('');
              setUnfinished(false);
            }}
          >
            Show all
          </Button>
        </Empty>
      ) : by !== undefined ? (
        <Beside editor={editor}>
          <Lists
            by={by}
            sources={sources}
            targets={targets}
            all={grid}
            inUse={inUse}
            draft={draft}
            levels={levels}
            onSet={set}
            onEdit={(row, column) => {
              const [down, across] = [sources.indexOf(row), targets.indexOf(column)];
              if (down < 0 || across < 0) return; // the filter leaves it out
              setSelection(at(down, across));
              setEditing(true);
            }}
          />
        </Beside>
      ) : (
        <Beside editor={editor}>
          <Grid
            place={gridPlace}
            sources={sources}
            targets={targets}
            all={grid}
            inUse={inUse}
            draft={draft}
            levels={levels}
            selection={selection}
            findings={found}
            turned={turned}
            onTurn={(thing) =>
              setTurned((before) =>
                before.has(thing)
                  ? new Set([...before].filter((one) => one !== thing))
                  : new Set([...before, thing]),
              )
            }
            onSelect={setSelection}
            onKey={onKey}
            onOpen={() => onKey('Enter', false, false)}
          />
        </Beside>
      )}
      <p className="mt-1.5 min-h-6 font-medium" aria-live="polite" hidden={by !== undefined}>
        {source !== undefined &&
          target !== undefined &&
          (selected.length > 1
            ? `${selected.length} cells selected.`
            : `${source.title} ${focused != null ? 'opens' : roundabout.length > 0 ? 'opens, by another link,' : 'does not open'} ${target.title}${focused == null ? '' : ` ${inWords(focused, source)}`}.`)}
        {copied !== undefined && ` Copied: ${copiedInWords(copied)}.`}
      </p>
      {by === undefined && <Keys all={helping} onHelp={() => setHelping(!helping)} />}
    </Screen>
  );
}

/** The mapping with the terms that are edited beside it, where there is room. */
function Beside({ editor, children }: { editor: ReactNode; children: ReactNode }) {
  return (
    <div className="flex flex-col gap-3 xl:flex-row xl:items-start">
      <div className="min-w-0 flex-1">{children}</div>
      {editor}
    </div>
  );
}

/** "/" leads to the filter from wherever one is, unless something is being typed. */
function useSlash(place: RefObject<HTMLInputElement | null>) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== '/' || event.ctrlKey || event.metaKey || event.altKey || isTyping(event)) return;
      event.preventDefault();
      place.current?.focus();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [place]);
}

function bySubject(findings: Schemas['ShownFinding'][]): ReadonlyMap<string, Schemas['ShownFinding'][]> {
  const found = new Map<string, Schemas['ShownFinding'][]>();
  for (const one of findings) {
    if (one.acceptance === undefined) found.set(one.subject, [...(found.get(one.subject) ?? []), one]);
  }
  return found;
}

function copiedInWords(copied: (Terms | null)[][]): string {
  const single = copied.length === 1 && copied[0]?.length === 1 ? copied[0][0] : undefined;
  if (single === null) return 'a cell that does not open';
  return single === undefined ? `${copied.length} × ${copied[0]?.length} cells` : inWords(single);
}

/** The rows of the category in which the focus is, in the columns that are selected. */
function wholeCategory(selection: Selection, sources: SourceRow[]): Selection {
  const category = sources[selection.row]?.category;
  const rows = sources.flatMap((row, at) => (row.category === category ? [at] : []));
  return { ...selection, anchorRow: rows[0] ?? selection.row, row: rows.at(-1) ?? selection.row };
}
