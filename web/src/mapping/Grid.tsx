import { useVirtualizer } from '@tanstack/react-virtual';
import {
  memo,
  useEffect,
  useRef,
  useState,
  type KeyboardEvent,
  type MouseEvent,
  type RefObject,
} from 'react';
import type { Schemas } from '../api/client';
import { money } from '../ui/words';
import { cellKey, type Change, type Draft } from './draft';
import { at, includes, moved, type Selection } from './selection';
import {
  canOpen,
  choiceInWords,
  choosing,
  covering,
  opensSomething,
  isUnfinished,
  type Grid as Whole,
  type SourceRow,
  type TargetColumn,
  type Used,
} from './shown';
import { idIn } from './paths';
import { groupOf } from './sorts';
import { inACell, inWords, type Terms } from './terms';
import { without, type Level } from './things';
import './Grid.css';

interface Props {
  place: RefObject<HTMLDivElement | null>;
  sources: SourceRow[];
  targets: TargetColumn[];
  /** Unfiltered: whether something opens nothing does not depend on what is shown. */
  all: Whole;
  inUse: Used;
  draft: Draft;
  /** Were the draft published. */
  levels: Level[];
  selection: Selection;
  /** What is open, by what it is about. */
  findings: ReadonlyMap<string, Schemas['ShownFinding'][]>;
  /** Courses whose sections are shown, products whose options are not. */
  turned: ReadonlySet<string>;
  onTurn: (thing: string) => void;
  onSelect: (selection: Selection) => void;
  /** Keys that are not for moving; says whether it took the key. */
  onKey: (key: string, ctrl: boolean, shift: boolean) => boolean;
  onOpen: () => void;
}

/** In pixels; the first column is as wide in the style sheet. */
const FIRST_COLUMN = 272;
/** So wide at least; in a place that does not hold all of them, as wide as lets it end with a whole one. */
const COLUMN = 84;
const ROW = 34;
/** So many cells are all in the page; of more only those that can be seen, and some around. */
const ALL_SHOWN = 4_000;
const AROUND = 4;

type Line = { heading: string; range: string } | { source: SourceRow; row: number };

/** How wide a column is, so that no cell is cut in half at the edge of the place. */
function useColumnWidth(place: RefObject<HTMLDivElement | null>, count: number): number {
  const [room, setRoom] = useState(0);
  useEffect(() => {
    const box = place.current;
    if (box === null) return;
    const watch = new ResizeObserver(() => setRoom(box.clientWidth - FIRST_COLUMN));
    watch.observe(box);
    return () => watch.disconnect();
  }, [place]);
  const whole = Math.floor(room / COLUMN);
  return whole < 1 || whole >= count ? COLUMN : room / whole;
}

/** No column begins half behind the first one; as wide as they are, what was seen whole stays so. */
function toWholeColumns(box: HTMLElement | null, width: number) {
  if (box !== null) box.scrollLeft = Math.round(box.scrollLeft / width) * width;
}

/** What opens things down, what can be opened across; a cell says the term in words. */
export function Grid(props: Props) {
  const { place, sources, targets, all, inUse, draft, selection, onSelect } = props;
  const hadFocus = useRef(false);
  const lines = inLines(sources);
  const overscan = sources.length * targets.length > ALL_SHOWN ? AROUND : 1_000;
  const width = useColumnWidth(place, targets.length);
  // what the compiler cannot memoize it leaves alone
  // eslint-disable-next-line react-hooks/incompatible-library
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => place.current,
    estimateSize: () => ROW,
    overscan,
  });
  const columns = useVirtualizer({
    horizontal: true,
    count: targets.length,
    getScrollElement: () => place.current,
    estimateSize: () => width,
    overscan,
    scrollPaddingStart: FIRST_COLUMN,
  });
  useEffect(() => columns.measure(), [columns, width]);
  const line = lines.findIndex((one) => 'row' in one && one.row === selection.row);
  useEffect(() => {
    if (!hadFocus.current) return;
    if (place.current?.querySelector('[tabindex="0"]') == null) {
      rows.scrollToIndex(line);
      columns.scrollToIndex(selection.column);
    }
    const frame = requestAnimationFrame(() => {
      const at = document.activeElement;
      // whoever has gone elsewhere meanwhile, to the filter say, is not called back
      if (at === document.body || place.current?.contains(at) === true) {
        place.current?.querySelector<HTMLElement>('[tabindex="0"]')?.focus();
        toWholeColumns(place.current, width);
      }
    });
    return () => cancelAnimationFrame(frame);
  }, [selection, place, rows, columns, line, sources, targets, width]);

  const onKeyDown = (event: KeyboardEvent) => {
    if (!(event.target instanceof HTMLElement) || event.target.dataset['row'] === undefined) return;
    const ctrl = event.ctrlKey || event.metaKey;
    const next = moved(selection, event.key, event.shiftKey, ctrl, sources.length, targets.length);
    if (next !== undefined) {
      hadFocus.current = true;
      onSelect(next);
    } else if (!props.onKey(event.key, ctrl, event.shiftKey)) return;
    event.preventDefault();
    event.stopPropagation();
  };
  const onClick = (event: MouseEvent) => {
    const heading = (event.target as HTMLElement).closest<HTMLElement>('[data-range]');
    if (heading !== null && (event.target as HTMLElement).closest('button, a') === null) {
      const [first = 0, last = 0] = (heading.dataset['range'] ?? '').split('-').map(Number);
      const down = heading.dataset['along'] === 'rows';
      hadFocus.current = true;
      onSelect(
        down
          ? { row: last, anchorRow: first, column: targets.length - 1, anchorColumn: 0 }
          : { row: sources.length - 1, anchorRow: 0, column: last, anchorColumn: first },
      );
      return;
    }
    const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-row]');
    if (cell === null) return;
    const [row, column] = [Number(cell.dataset['row']), Number(cell.dataset['column'])];
    hadFocus.current = true;
    onSelect(event.shiftKey ? { ...selection, row, column } : at(row, column));
  };

  const across = columns.getVirtualItems();
  const seen = across.map((item) => item.index);
  const before = across[0]?.start ?? 0;
  const after = columns.getTotalSize() - (across.at(-1)?.end ?? 0);
  const down = rows.getVirtualItems();
  const above = down[0]?.start ?? 0;
  const below = rows.getTotalSize() - (down.at(-1)?.end ?? 0);
  const span = seen.length + 1 + (before > 0 ? 1 : 0) + (after > 0 ? 1 : 0);
  return (
    <div className="grid-place" ref={place}>
      <table
        role="grid"
        className="mapping-grid"
        style={{ minWidth: `${FIRST_COLUMN + targets.length * width}px` }}
        aria-label="What opens what"
        aria-multiselectable="true"
        aria-rowcount={sources.length}
        aria-colcount={targets.length}
        onKeyDown={onKeyDown}
        onClick={onClick}
        onDoubleClick={props.onOpen}
      >
        <colgroup>
          <col className="grid-first" />
          {before > 0 && <col style={{ width: before }} />}
          {seen.map((column) => (
            <col key={targets[column]?.target} />
          ))}
          {after > 0 && <col style={{ width: after }} />}
        </colgroup>
        <thead>
          <tr>
            <td className="grid-corner" />
            {before > 0 && <td />}
            {byGroup(seen, targets).map(({ name, first, count }) => (
              <th
                key={`${name}-${first}`}
                scope="colgroup"
                colSpan={count}
                className="grid-category"
                data-along="columns"
                data-range={groupRange(targets, first)}
              >
                {name}
              </th>
            ))}
            {after > 0 && <td />}
          </tr>
          <tr>
            <td className="grid-corner grid-legend">
              What people buy, hold or are ↓<br />
              opens →
            </td>
            {before > 0 && <td />}
            {seen.map((column) => {
              const target = targets[column];
              return (
                target && (
                  <th
                    key={target.target}
                    scope="col"
                    className={column === selection.column ? 'grid-course grid-here' : 'grid-course'}
                    data-along="columns"
                    data-range={`${column}-${column}`}
                  >
                    {target.title}
                    <Found findings={props.findings.get(target.target)} />
                    <TargetState
                      target={target}
                      wayIn={inUse.targets.has(target.target)}
                      unfolded={props.turned.has(target.target)}
                      canUnfold={all.targets.some((one) => one.parent === target.target)}
                      onUnfold={() => props.onTurn(target.target)}
                    />
                  </th>
                )
              );
            })}
            {after > 0 && <td />}
          </tr>
        </thead>
        <tbody>
          {above > 0 && (
            <tr aria-hidden="true">
              <td colSpan={span} style={{ height: above }} />
            </tr>
          )}
          {down.map((item) => {
            const one = lines[item.index];
            if (one === undefined) return null;
            if ('heading' in one) {
              return (
                <tr key={`heading-${one.heading}`} className="grid-group">
                  <th scope="rowgroup" colSpan={span} data-along="rows" data-range={one.range}>
                    <span>{one.heading === '' ? 'Other products' : one.heading}</span>
                  </th>
                </tr>
              );
            }
            const { source, row } = one;
            const child = source.parent === undefined ? '' : ' grid-child';
            return (
              <tr key={source.source}>
                <th
                  scope="row"
                  className={`grid-product${child}${row === selection.row ? ' grid-here' : ''}`}
                  data-along="rows"
                  data-range={`${row}-${row}`}
                >
                  {source.title} <SourceMore source={source} />
                  <Found findings={props.findings.get(source.source)} />
                  <Options
                    source={source}
                    all={all}
                    folded={props.turned.has(source.source)}
                    onTurn={() => props.onTurn(source.source)}
                  />
                  <SourceState source={source} all={all} inUse={inUse} />
                </th>
                {before > 0 && <td />}
                {seen.map((column) => {
                  const target = targets[column];
                  if (target === undefined) return null;
                  const key = cellKey(source.source, target.target);
                  return (
                    <Cell
                      key={target.target}
                      source={source}
                      target={target}
                      row={row}
                      column={column}
                      terms={inUse.cells.get(key)}
                      {...wayRound(inUse, props.levels, source, target)}
                      change={draft.changes[key]}
                      focused={row === selection.row && column === selection.column}
                      selected={includes(selection, row, column)}
                    />
                  );
                })}
                {after > 0 && <td />}
              </tr>
            );
          })}
          {below > 0 && (
            <tr aria-hidden="true">
              <td colSpan={span} style={{ height: below }} />
            </tr>
          )}
        </tbody>
      </table>
    </div>
  );
}

function inLines(sources: SourceRow[]): Line[] {
  return sources.flatMap((source, row): Line[] => {
    const line = { source, row };
    if (source.category === sources[row - 1]?.category) return [line];
    const next = sources.findIndex((other, at) => at > row && other.category !== source.category);
    const range = `${row}-${(next < 0 ? sources.length : next) - 1}`;
    return [{ heading: source.category, range }, line];
  });
}

/** A mark where something is found; the margin says what. */
function Found({ findings }: { findings: Schemas['ShownFinding'][] | undefined }) {
  if (findings === undefined || findings.length === 0) return null;
  const grave = findings.some((one) => one.severity === 'GRAVE');
  const words = findings.map((one) => one.title).join('; ');
  return (
    <span
      className={`grid-found size-2.5 ${grave ? 'rotate-45 rounded-[2px] bg-error' : 'rounded-full bg-lamp'}`}
      role="img"
      aria-label={words}
      title={words}
    />
  );
}

interface OptionsProps {
  source: SourceRow;
  all: Whole;
  folded: boolean;
  onTurn: () => void;
}

/** Folds a product's options. */
function Options({ source, all, folded, onTurn }: OptionsProps) {
  const options = all.sources.filter((row) => row.parent === source.source).length;
  if (source.sort !== 'product' || options === 0) return null;
  return (
    <small>
      <button className="link font-medium" aria-expanded={!folded} onClick={onTurn}>
        {options} {options === 1 ? 'option' : 'options'} {folded ? '›' : '‹'}
      </button>
    </small>
  );
}

interface CellProps {
  source: SourceRow;
  target: TargetColumn;
  row: number;
  column: number;
  terms: Terms | undefined;
  /** What opens it without a link of its own: as the cell says it, and in words. */
  around?: string;
  aroundInWords?: string;
  change: Change | undefined;
  focused: boolean;
  selected: boolean;
}

const Cell = memo(function Cell({
  source,
  target,
  row,
  column,
  terms,
  around,
  aroundInWords,
  change,
  focused,
  selected,
}: CellProps) {
  const shown = terms ?? change?.was ?? null;
  const kind = change === undefined ? '' : terms === undefined ? ' term-removed' : ' term-draft';
  return (
    <td
      role="gridcell"
      tabIndex={focused ? 0 : -1}
      data-row={row}
      data-column={column}
      aria-selected={selected}
      aria-label={said(source, target, terms, aroundInWords, change !== undefined)}
      title={shown === null ? aroundInWords : undefined}
      className={focused ? 'grid-cell grid-focus' : 'grid-cell'}
    >
      {shown !== null && (
        <span className={`term ${shown.length === 'held' ? 'term-always' : 'term-period'}${kind}`}>
          {inACell(shown, source)}
        </span>
      )}
      {!canOpen(source.source, target.target) && (
        <span className="block text-center text-soft" aria-hidden="true">
          ·
        </span>
      )}
      {shown === null && around !== undefined && (
        <span className="block text-center text-soft italic">{around}</span>
      )}
    </td>
  );
});

/** What opens a cell that has no link of its own. */
function wayRound(
  inUse: Used,
  levels: Level[],
  source: SourceRow,
  target: TargetColumn,
): { around: string; aroundInWords: string } | undefined {
  const [way] = covering(inUse, source, target);
  if (way !== undefined)
    return {
      around: inACell(without(way.terms, 'except'), source),
      aroundInWords: `${way.words}: ${inWords(way.terms, source)}`,
    };
  if (source.sort !== 'level') return undefined;
  const choice = choosing(levels, target).find(({ level }) => level.id === idIn(source.source));
  return choice && { around: 'choice', aroundInWords: choiceInWords(choice.allowance) };
}

function said(
  source: SourceRow,
  target: TargetColumn,
  terms: Terms | undefined,
  around: string | undefined,
  draft: boolean,
): string {
  const what =
    terms === undefined
      ? around === undefined
        ? `${source.title} does not open ${target.title}`
        : `${source.title} opens ${target.title} by another link, ${around}`
      : `${source.title} opens ${target.title} ${inWords(terms, source)}`;
  return draft ? `${what}. Draft, not published.` : what;
}

interface StateProps {
  target: TargetColumn;
  wayIn: boolean;
  canUnfold: boolean;
  unfolded: boolean;
  onUnfold: () => void;
}

/** What keeps a course from opening properly, the gravest first. */
function TargetState({ target, wayIn, canUnfold, unfolded, onUnfold }: StateProps) {
  if (!target.listed) return <small className="text-error">gone from its system</small>;
  const { course } = target;
  if (target.sort === 'category') return <small>also those to come</small>;
  if (target.sort === 'section') return <small>a section</small>;
  if (course === undefined)
    return wayIn || target.sort === 'tag' || target.sort === 'level' ? null : <small>nothing opens it</small>;
  if (course.door !== 'YORU_ONLY') return <small className="text-error">side door open</small>;
  if (!wayIn) return <small className="text-warning">no way in</small>;
  if (!course.content) return <small className="text-warning">empty</small>;
  if (!course.published) return <small className="text-warning">not published</small>;
  if (course.sections === 0) return null;
  const sections = `${course.sections} ${course.sections === 1 ? 'section' : 'sections'}`;
  return canUnfold ? (
    <small>
      <button className="link font-medium" aria-expanded={unfolded} onClick={onUnfold}>
        {sections} {unfolded ? '‹' : '›'}
      </button>
    </small>
  ) : (
    <small>{sections}</small>
  );
}

function SourceMore({ source }: { source: SourceRow }) {
  if (source.sort === 'category' || source.sort === 'completed') return null;
  return (
    <span className="grid-code">
      {idIn(source.source)}
      {source.price !== undefined &&
        source.currency !== undefined &&
        ` · ${money(source.price, source.currency)}`}
    </span>
  );
}

function SourceState({ source, all, inUse }: { source: SourceRow; all: Whole; inUse: Used }) {
  if (source.sort === 'tag')
    return source.listed ? null : <small className="text-warning">no longer listed</small>;
  if (source.sort === 'option')
    return isUnfinished(source, all, inUse) ? <small className="text-warning">opens nothing</small> : null;
  if (source.sort !== 'product') return null;
  if (source.thing) return <small>a thing to post</small>;
  if (!opensSomething(source, all, inUse))
    return (
      <small className="text-warning">
        opens nothing{source.buyers > 0 && `, ${source.buyers} bought it`}
      </small>
    );
  return source.listed ? null : <small className="text-warning">no longer sold</small>;
}

interface Group {
  name: string;
  first: number;
  count: number;
}

function byGroup(columns: number[], targets: TargetColumn[]): Group[] {
  const groups: Group[] = [];
  for (const column of columns) {
    const target = targets[column];
    if (target === undefined) continue;
    const last = groups.at(-1);
    if (last !== undefined && last.name === groupOf(target)) last.count++;
    else groups.push({ name: groupOf(target), first: column, count: 1 });
  }
  return groups;
}

/** From where to where the group of a column goes, also where not all of it is seen. */
function groupRange(targets: TargetColumn[], column: number): string {
  const group = (at: number) => {
    const target = targets[at];
    return target && groupOf(target);
  };
  let [first, last] = [column, column];
  while (first > 0 && group(first - 1) === group(column)) first--;
  while (last < targets.length - 1 && group(last + 1) === group(column)) last++;
  return `${first}-${last}`;
}
