import { useEffect, useRef, type KeyboardEvent, type MouseEvent, type RefObject } from 'react';
import type { Schemas } from '../api/client';
import { money } from '../ui/words';
import { cellKey, type CellKey, type Draft } from './draft';
import { at, includes, moved, type Selection } from './selection';
import { groupOf, idIn } from './sorts';
import { inACell, inWords, type Terms } from './terms';

interface Props {
  place: RefObject<HTMLDivElement | null>;
  sources: Schemas['SourceRow'][];
  targets: Schemas['TargetColumn'][];
  /** Unfiltered: whether something opens nothing does not depend on what is shown. */
  all: Schemas['Grid'];
  opens: (key: CellKey) => Terms | null;
  draft: Draft;
  selection: Selection;
  onSelect: (selection: Selection) => void;
  /** Keys that are not for moving; says whether it took the key. */
  onKey: (key: string, ctrl: boolean, shift: boolean) => boolean;
  onOpen: () => void;
}

/** In pixels; the first column is as wide in the style sheet. */
const FIRST_COLUMN = 268;
const NARROWEST_COLUMN = 78;

/** What opens things down, what can be opened across; a cell says the term in words. */
export function Grid(props: Props) {
  const { place, sources, targets, all, opens, selection, onSelect } = props;
  const hadFocus = useRef(false);
  useEffect(() => {
    if (hadFocus.current) place.current?.querySelector<HTMLElement>('[tabindex="0"]')?.focus();
  }, [selection, place]);

  const onKeyDown = (event: KeyboardEvent) => {
    const ctrl = event.ctrlKey || event.metaKey;
    const next = moved(selection, event.key, event.shiftKey, ctrl, sources.length, targets.length);
    if (next !== undefined) {
      hadFocus.current = true;
      onSelect(next);
    } else if (!props.onKey(event.key, ctrl, event.shiftKey)) return;
    event.preventDefault();
    event.stopPropagation();
  };
  const onCell = (event: MouseEvent<HTMLElement>, row: number, column: number) => {
    hadFocus.current = true;
    onSelect(event.shiftKey ? { ...selection, row, column } : at(row, column));
  };

  return (
    <div className="grid-place" ref={place}>
      <table
        role="grid"
        className="mapping-grid"
        style={{ minWidth: `${FIRST_COLUMN + targets.length * NARROWEST_COLUMN}px` }}
        aria-label="What opens what"
        aria-multiselectable="true"
        aria-rowcount={sources.length}
        aria-colcount={targets.length}
      >
        <colgroup>
          <col className="grid-first" />
          {targets.map((target) => (
            <col key={target.target} />
          ))}
        </colgroup>
        <thead>
          <tr>
            <td className="grid-corner" />
            {byGroup(targets).map(([name, count]) => (
              <th key={name} scope="colgroup" colSpan={count} className="grid-category">
                {name}
              </th>
            ))}
          </tr>
          <tr>
            <td className="grid-corner grid-legend">
              What people buy or hold ↓<br />
              opens →
            </td>
            {targets.map((target, column) => (
              <th
                key={target.target}
                scope="col"
                className={column === selection.column ? 'grid-course grid-here' : 'grid-course'}
              >
                {target.title}
                <TargetState
                  target={target}
                  wayIn={all.sources.some((source) => opens(cellKey(source.source, target.target)) !== null)}
                />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sources.map((source, row) => {
            const begins = source.category !== sources[row - 1]?.category;
            return [
              begins && (
                <tr key={`group-${source.category}`} className="grid-group">
                  <th scope="rowgroup" colSpan={targets.length + 1}>
                    {source.category === '' ? 'Other products' : source.category}
                  </th>
                </tr>
              ),
              <tr key={source.source}>
                <th scope="row" className={row === selection.row ? 'grid-product grid-here' : 'grid-product'}>
                  {source.title} <SourceMore source={source} />
                  <SourceState
                    source={source}
                    opensSomething={all.targets.some(
                      (target) => opens(cellKey(source.source, target.target)) !== null,
                    )}
                  />
                </th>
                {targets.map((target, column) => (
                  <Cell
                    key={target.target}
                    {...props}
                    source={source}
                    target={target}
                    row={row}
                    column={column}
                    onSelectCell={onCell}
                    onCellKey={onKeyDown}
                  />
                ))}
              </tr>,
            ];
          })}
        </tbody>
      </table>
    </div>
  );
}

interface CellProps extends Props {
  source: Schemas['SourceRow'];
  target: Schemas['TargetColumn'];
  row: number;
  column: number;
  onSelectCell: (event: MouseEvent<HTMLElement>, row: number, column: number) => void;
  onCellKey: (event: KeyboardEvent) => void;
}

function Cell({
  source,
  target,
  row,
  column,
  opens,
  draft,
  selection,
  onSelectCell,
  onCellKey,
  onOpen,
}: CellProps) {
  const key = cellKey(source.source, target.target);
  const change = draft.changes[key];
  const terms = opens(key);
  const focused = row === selection.row && column === selection.column;
  const shown = terms ?? change?.was ?? null;
  const kind = change === undefined ? '' : terms === null ? ' term-removed' : ' term-draft';
  return (
    <td
      role="gridcell"
      tabIndex={focused ? 0 : -1}
      aria-selected={includes(selection, row, column)}
      aria-label={said(source, target, terms, change !== undefined)}
      className={focused ? 'grid-cell grid-focus' : 'grid-cell'}
      onClick={(event) => onSelectCell(event, row, column)}
      onDoubleClick={onOpen}
      onKeyDown={onCellKey}
    >
      {shown !== null && (
        <span className={`term ${shown.length === 'held' ? 'term-always' : 'term-period'}${kind}`}>
          {inACell(shown, source.sort)}
        </span>
      )}
    </td>
  );
}

function said(
  source: Schemas['SourceRow'],
  target: Schemas['TargetColumn'],
  terms: Terms | null,
  draft: boolean,
): string {
  const what =
    terms === null
      ? `${source.title} does not open ${target.title}`
      : `${source.title} opens ${target.title} ${inWords(terms, source.sort)}`;
  return draft ? `${what}. Draft, not published.` : what;
}

/** What keeps a course from opening properly, the gravest first. */
function TargetState({ target, wayIn }: { target: Schemas['TargetColumn']; wayIn: boolean }) {
  if (!target.listed) return <small className="bad">gone from its system</small>;
  const { course } = target;
  if (course === undefined) return wayIn || target.sort === 'tag' ? null : <small>nothing opens it</small>;
  if (course.door !== 'YORU_ONLY') return <small className="bad">side door open</small>;
  if (!wayIn) return <small className="warn">no way in</small>;
  if (!course.content) return <small className="warn">empty</small>;
  if (!course.published) return <small className="warn">not published</small>;
  return (
    <small>
      {course.sections} {course.sections === 1 ? 'section' : 'sections'}
    </small>
  );
}

function SourceMore({ source }: { source: Schemas['SourceRow'] }) {
  return (
    <span className="grid-code">
      {idIn(source.source)}
      {source.price !== undefined &&
        source.currency !== undefined &&
        ` · ${money(source.price, source.currency)}`}
    </span>
  );
}

function SourceState({ source, opensSomething }: { source: Schemas['SourceRow']; opensSomething: boolean }) {
  if (source.sort === 'tag') return source.listed ? null : <small className="warn">no longer listed</small>;
  if (source.thing) return <small>a thing to post</small>;
  if (!opensSomething)
    return <small className="warn">opens nothing{source.buyers > 0 && `, ${source.buyers} bought it`}</small>;
  return source.listed ? null : <small className="warn">no longer sold</small>;
}

function byGroup(targets: Schemas['TargetColumn'][]): [string, number][] {
  const spans: [string, number][] = [];
  for (const target of targets) {
    const last = spans.at(-1);
    if (last !== undefined && last[0] === groupOf(target)) last[1]++;
    else spans.push([groupOf(target), 1]);
  }
  return spans;
}
