import { useEffect, useRef, type KeyboardEvent, type MouseEvent, type RefObject } from 'react';
import type { Schemas } from '../api/client';
import { money } from '../ui/words';
import { cellKey, type CellKey, type Draft } from './draft';
import { at, includes, moved, type Selection } from './selection';
import { inACell, inWords, type Terms } from './terms';

interface Props {
  place: RefObject<HTMLDivElement | null>;
  products: Schemas['ProductRow'][];
  courses: Schemas['CourseColumn'][];
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

/** Products down, courses across; a cell says the term in words. */
export function Grid(props: Props) {
  const { place, products, courses, all, opens, selection, onSelect } = props;
  const hadFocus = useRef(false);
  useEffect(() => {
    if (hadFocus.current) place.current?.querySelector<HTMLElement>('[tabindex="0"]')?.focus();
  }, [selection, place]);

  const onKeyDown = (event: KeyboardEvent) => {
    const ctrl = event.ctrlKey || event.metaKey;
    const next = moved(selection, event.key, event.shiftKey, ctrl, products.length, courses.length);
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
        aria-label="What opens what"
        aria-multiselectable="true"
        aria-rowcount={products.length}
        aria-colcount={courses.length}
      >
        <colgroup>
          <col className="grid-first" />
          {courses.map((course) => (
            <col key={course.id} />
          ))}
        </colgroup>
        <thead>
          <tr>
            <td className="grid-corner" />
            {byCategory(courses).map(([name, count]) => (
              <th key={name} scope="colgroup" colSpan={count} className="grid-category">
                {name}
              </th>
            ))}
          </tr>
          <tr>
            <td className="grid-corner grid-legend">
              What people buy ↓<br />
              opens →
            </td>
            {courses.map((course, column) => (
              <th
                key={course.id}
                scope="col"
                className={column === selection.column ? 'grid-course grid-here' : 'grid-course'}
              >
                {course.title}
                <CourseState
                  course={course}
                  wayIn={all.products.some((product) => opens(cellKey(product.id, course.id)) !== null)}
                />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {products.map((product, row) => {
            const begins = product.category !== products[row - 1]?.category;
            return [
              begins && (
                <tr key={`group-${product.category}`} className="grid-group">
                  <th scope="rowgroup" colSpan={courses.length + 1}>
                    {product.category === '' ? 'Other products' : product.category}
                  </th>
                </tr>
              ),
              <tr key={product.id}>
                <th scope="row" className={row === selection.row ? 'grid-product grid-here' : 'grid-product'}>
                  {product.title} <ProductMore product={product} />
                  <ProductState
                    product={product}
                    opensSomething={all.courses.some(
                      (course) => opens(cellKey(product.id, course.id)) !== null,
                    )}
                  />
                </th>
                {courses.map((course, column) => (
                  <Cell
                    key={course.id}
                    {...props}
                    product={product}
                    course={course}
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
  product: Schemas['ProductRow'];
  course: Schemas['CourseColumn'];
  row: number;
  column: number;
  onSelectCell: (event: MouseEvent<HTMLElement>, row: number, column: number) => void;
  onCellKey: (event: KeyboardEvent) => void;
}

function Cell({
  product,
  course,
  row,
  column,
  opens,
  draft,
  selection,
  onSelectCell,
  onCellKey,
  onOpen,
}: CellProps) {
  const key = cellKey(product.id, course.id);
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
      aria-label={said(product, course, terms, change !== undefined)}
      className={focused ? 'grid-cell grid-focus' : 'grid-cell'}
      onClick={(event) => onSelectCell(event, row, column)}
      onDoubleClick={onOpen}
      onKeyDown={onCellKey}
    >
      {shown !== null && (
        <span className={`term ${shown.length === 'held' ? 'term-always' : 'term-period'}${kind}`}>
          {inACell(shown)}
        </span>
      )}
    </td>
  );
}

function said(
  product: Schemas['ProductRow'],
  course: Schemas['CourseColumn'],
  terms: Terms | null,
  draft: boolean,
): string {
  const what =
    terms === null
      ? `${product.title} does not open ${course.title}`
      : `${product.title} opens ${course.title} ${inWords(terms)}`;
  return draft ? `${what}. Draft, not published.` : what;
}

/** What keeps a course from opening properly, the gravest first. */
function CourseState({ course, wayIn }: { course: Schemas['CourseColumn']; wayIn: boolean }) {
  if (!course.listed) return <small className="bad">gone from the classroom</small>;
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

function ProductMore({ product }: { product: Schemas['ProductRow'] }) {
  return (
    <span className="grid-code">
      {product.id}
      {product.price !== undefined &&
        product.currency !== undefined &&
        ` · ${money(product.price, product.currency)}`}
    </span>
  );
}

function ProductState({
  product,
  opensSomething,
}: {
  product: Schemas['ProductRow'];
  opensSomething: boolean;
}) {
  if (product.thing) return <small>a thing to post</small>;
  if (!opensSomething)
    return (
      <small className="warn">opens nothing{product.buyers > 0 && `, ${product.buyers} bought it`}</small>
    );
  return product.listed ? null : <small className="warn">no longer sold</small>;
}

function byCategory(courses: Schemas['CourseColumn'][]): [string, number][] {
  const spans: [string, number][] = [];
  for (const course of courses) {
    const last = spans.at(-1);
    if (last !== undefined && last[0] === course.category) last[1]++;
    else spans.push([course.category, 1]);
  }
  return spans;
}
