import { useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import { all, without } from '../mapping/things';
import { Finder } from '../ui/Finder';
import { matches } from '../desk/offer';
import { saveFile } from '../ui/files';
import { Acts, Button, Field, Notice, Panel, Table } from '../ui/kit';
import { counted } from '../ui/words';
import {
  columns,
  evened,
  hasThing,
  isOfOrder,
  kindOfWhen,
  oddOneOut,
  pastedCells,
  type Followup,
  type Row,
} from './model';
import type { Known } from './parts';

interface Props {
  followup: Followup;
  known: Known;
  mayChange: boolean;
  onChange: (followup: Followup) => void;
}

const MOST = 8;

interface About {
  key: string;
  title: string;
  is: Row['for'];
}

/** What can have a row: what is sold, or what is opened and finished. */
function abouts(followup: Followup, { things, draft }: Known): About[] {
  const kind = kindOfWhen(followup.when);
  const sold = isOfOrder(followup.when) || kind === 'claimed' || kind === 'subscription';
  const sorts = sold
    ? (['product'] as const)
    : kind === 'completed'
      ? (['course'] as const)
      : (['course', 'level', 'tag', 'group', 'area', 'download', 'list'] as const);
  return sorts.flatMap((sort) =>
    all(things, draft, sort).map(({ id, title }) => ({
      key: `${sort}/${id}`,
      title: title ?? id,
      is: { [sort]: id },
    })),
  );
}

function keyOf(row: Row): string {
  const [sort, id] = Object.entries(row.for)[0] ?? ['', ''];
  return `${sort}/${String(id)}`;
}

/** One follow-up for many: what is different for each thing. */
export function RowsTable({ followup, known, mayChange, onChange }: Props) {
  const [words, setWords] = useState('');
  const [column, setColumn] = useState('');
  const [said, setSaid] = useState('');
  const offered = abouts(followup, known);
  const names = columns(followup);
  const rows = followup.rows ?? [];
  const title = (row: Row) => offered.find((one) => one.key === keyOf(row))?.title ?? keyOf(row);
  const set = (next: Row[]) => {
    const rest = without(followup, 'rows');
    const [first, ...more] = evened(next, columns({ ...rest, rows: next }));
    onChange(first === undefined ? rest : { ...rest, rows: [first, ...more] });
  };
  if (!hasThing(followup)) {
    return (
      <Panel>
        <h2>One for many</h2>
        <p className="text-soft">
          {isOfOrder(followup.when)
            ? 'To say something different for each product, have it run for each line of an order: “for each of its lines”.'
            : 'What it waits for is about nothing that could have a row of its own.'}
        </p>
      </Panel>
    );
  }
  const missing = rows.filter((row) => names.some((name) => (row.values[name] ?? '') === '')).length;
  const odd = new Map(names.map((name) => [name, oddOneOut(rows.map((row) => row.values[name] ?? ''))]));
  const put = (at: number, name: string, value: string) =>
    set(
      rows.map((row, index) => (index === at ? { ...row, values: { ...row.values, [name]: value } } : row)),
    );
  const fillDown = (from: number, name: string) =>
    set(
      rows.map((row, at) =>
        at > from ? { ...row, values: { ...row.values, [name]: rows[from]?.values[name] ?? '' } } : row,
      ),
    );
  /** From the cell in which it is pasted, to the right and down; in the first column things are found by name or id. */
  const paste = (event: ClipboardEvent, at: number, first: number) => {
    const cells = pastedCells(event.clipboardData.getData('text/plain'));
    if (cells.length === 1 && cells[0]?.length === 1) return;
    event.preventDefault();
    const next = rows.map((row) => ({ ...row, values: { ...row.values } }));
    const unknown: string[] = [];
    cells.forEach((line, down) => {
      const values = first < 0 ? line.slice(1) : line;
      let row = next[at + down];
      if (first < 0) {
        const about = offered.find(
          (one) =>
            one.title.toLowerCase() === (line[0] ?? '').toLowerCase() ||
            one.key.endsWith(`/${line[0] ?? ''}`),
        );
        if (about === undefined) {
          if ((line[0] ?? '') !== '') unknown.push(line[0] ?? '');
          return;
        }
        row = next.find((one) => keyOf(one) === about.key);
        if (row === undefined) {
          row = { for: about.is, values: {} };
          next.push(row);
        }
      }
      values.forEach((value, across) => {
        const name = names[Math.max(first, 0) + across];
        if (row !== undefined && name !== undefined) row.values[name] = value;
      });
    });
    set(next);
    setSaid(
      unknown.length > 0
        ? `Not found, and left out: ${unknown.join(', ')}.`
        : `${counted(cells.length, 'line was', 'lines were')} pasted.`,
    );
  };
  const onCellKey = (event: KeyboardEvent, at: number, name: string) => {
    if (event.ctrlKey && event.key.toLowerCase() === 'd') {
      event.preventDefault();
      fillDown(at, name);
    }
  };
  return (
    <Panel aria-label="One for many">
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <h2 className="m-0">One for many</h2>
        <span className="text-soft">
          {rows.length === 0
            ? 'one for all alike'
            : [
                counted(rows.length, 'row', 'rows'),
                missing > 0 ? `${missing} ${missing === 1 ? 'lacks' : 'lack'} a value` : '',
                [...odd.values()].some((place) => place !== undefined) ? 'one differs from all others' : '',
              ]
                .filter((one) => one !== '')
                .join(' · ')}
        </span>
        {rows.length > 0 && (
          <Acts className="ml-auto">
            <Button
              small
              type="button"
              onClick={() => saveFile(`${followup.id}.csv`, csv(rows, names, title))}
            >
              Save as CSV
            </Button>
          </Acts>
        )}
      </div>
      {rows.length > 0 && (
        <div className="max-h-[28rem] overflow-auto">
          <Table aria-label="Rows">
            <thead>
              <tr>
                <th scope="col">for</th>
                {names.map((name) => (
                  <th key={name} scope="col">
                    {name}
                  </th>
                ))}
                {mayChange && (
                  <th scope="col">
                    <span className="sr-only">acts</span>
                  </th>
                )}
              </tr>
            </thead>
            <tbody>
              {rows.map((row, at) => (
                <tr key={keyOf(row)}>
                  <th
                    scope="row"
                    className="text-left font-semibold"
                    tabIndex={mayChange ? 0 : undefined}
                    onPaste={(event) => paste(event, at, -1)}
                  >
                    {title(row)}
                  </th>
                  {names.map((name, across) => {
                    const value = row.values[name] ?? '';
                    const lacks = value === '';
                    const differs = odd.get(name) === at;
                    return (
                      <td key={name} className={lacks ? 'bg-error/12' : ''}>
                        {mayChange ? (
                          <input
                            className={`w-full min-w-28 rounded-field bg-transparent px-1 py-0.5 placeholder:text-error placeholder:opacity-100 ${differs ? 'outline-2 outline-lamp outline-dashed' : ''}`}
                            aria-label={`${name} of ${title(row)}`}
                            placeholder={`no ${name} yet`}
                            value={value}
                            maxLength={500}
                            onChange={(event) => put(at, name, event.target.value)}
                            onPaste={(event) => paste(event, at, across)}
                            onKeyDown={(event) => onCellKey(event, at, name)}
                          />
                        ) : (
                          value
                        )}
                        {differs && <small className="text-warning">differs from all others</small>}
                      </td>
                    );
                  })}
                  {mayChange && (
                    <td>
                      <Button
                        small
                        type="button"
                        aria-label={`Without ${title(row)}`}
                        onClick={() => set(rows.filter((_, index) => index !== at))}
                      >
                        ×
                      </Button>
                    </td>
                  )}
                </tr>
              ))}
            </tbody>
          </Table>
        </div>
      )}
      {rows.length > 0 && mayChange && (
        <p className="text-soft">
          Ctrl V pastes from a spreadsheet, beginning in the cell you are in; on a name, the first column is
          taken as names. Ctrl D fills down.
        </p>
      )}
      {said !== '' && <p role="status">{said}</p>}
      {missing > 0 && <Notice>A row that lacks a value cannot be published.</Notice>}
      {mayChange && (
        <div className="grid gap-3 sm:grid-cols-2">
          <Finder
            label="Add a row for"
            placeholder="add a row for …"
            words={words}
            onWords={setWords}
            found={offered
              .filter(
                (one) => !rows.some((row) => keyOf(row) === one.key) && matches(words, one.title, one.key),
              )
              .slice(0, MOST)}
            idOf={(one) => one.key}
            show={(one) => one.title}
            onChoose={(one) => set([...rows, { for: one.is, values: {} }])}
            nothing="Nothing is called that."
          />
          {rows.length > 0 && (
            <form
              className="flex items-end gap-2"
              onSubmit={(event) => {
                event.preventDefault();
                const name = column.trim();
                if (name === '' || names.includes(name)) return;
                set(rows.map((row) => ({ ...row, values: { ...row.values, [name]: '' } })));
                setColumn('');
              }}
            >
              <Field label="Another column" value={column} maxLength={60} onValue={setColumn} />
              <Button small>Add</Button>
            </form>
          )}
        </div>
      )}
      {rows.length > 0 && mayChange && names.length > 0 && (
        <p className="text-soft">
          In texts and things a column stands as{' '}
          {names.slice(0, 3).map((name) => (
            <code key={name} className="mr-1">{`{{row.${name}}}`}</code>
          ))}
        </p>
      )}
    </Panel>
  );
}

/** RFC 4180. */
function csv(rows: Row[], names: string[], title: (row: Row) => string): string {
  const cell = (text: string) => (/[",\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
  return [
    ['for', ...names].map(cell).join(','),
    ...rows.map((row) => [title(row), ...names.map((name) => row.values[name] ?? '')].map(cell).join(',')),
  ]
    .map((line) => `${line}\r\n`)
    .join('');
}
