import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api, type Schemas } from '../api/client';
import { Fault, Waiting } from '../ui/parts';
import { useSettled } from '../ui/settled';
import { counted } from '../ui/words';
import { KINDS, STATES } from './words';

type Shown = Schemas['ShownImport'];
type Matching = Schemas['ImportMatching'];
type Field = Schemas['ImportField']['field'];

const DATES: Record<Matching['dates'], string> = {
  ISO: '2026-03-01',
  DAY_FIRST: '01/03/2026, the day first',
  MONTH_FIRST: '03/01/2026, the month first',
};

/** One table: its columns matched, what each row will come to, and how far it is. */
export function Import({ id, onClose }: { id: number; onClose: () => void }) {
  const queries = useQueryClient();
  const about = { params: { path: { id } } };
  const one = api.useQuery('get', '/api/imports/{id}', about, {
    refetchInterval: (query) => (query.state.data?.state === 'RUNNING' ? 1_000 : false),
  });
  const remove = api.useMutation('delete', '/api/imports/{id}', {
    onSuccess: onClose,
    onSettled: () => queries.invalidateQueries(),
  });
  const data = one.data;
  const fault = one.error ?? remove.error;
  return (
    <article className="import">
      <div className="acts acts-line">
        <button className="btn btn-sm" onClick={onClose}>
          All imports
        </button>
        {data !== undefined && data.state !== 'RUNNING' && (
          <button className="btn btn-sm" disabled={remove.isPending} onClick={() => remove.mutate(about)}>
            Throw the table away
          </button>
        )}
      </div>
      {fault !== null && <Fault error={fault} />}
      {data === undefined && one.error === null && <Waiting what="the table" />}
      {data !== undefined && (
        <>
          <h2>
            {data.name}{' '}
            <span className="soft">
              {KINDS.find((kind) => kind.kind === data.kind)?.title}, {counted(data.total, 'row', 'rows')}
            </span>
          </h2>
          {data.state === 'MATCHING' ? <Match job={data} /> : <Progress job={data} />}
        </>
      )}
    </article>
  );
}

function Match({ job }: { job: Shown }) {
  const queries = useQueryClient();
  const [matching, setMatching] = useState<Matching>(job.matching);
  const [settled, still] = useSettled(matching, 300);
  const about = { params: { path: { id: job.id } } };
  const look = api.useMutation('put', '/api/imports/{id}/matching');
  const start = api.useMutation('post', '/api/imports/{id}/start', {
    onSettled: () => queries.invalidateQueries(),
  });
  const { mutate } = look;
  const text = JSON.stringify(settled);
  useEffect(() => {
    mutate({ params: { path: { id: job.id } }, body: JSON.parse(text) as Matching });
  }, [mutate, job.id, text]);
  const current = still && !look.isPending ? look.data : undefined;
  const put = (field: Field, column: string) => {
    const others = Object.entries(matching.columns).filter(([other]) => other !== field);
    const columns: Matching['columns'] = Object.fromEntries(
      column === '' ? others : [...others, [field, column]],
    );
    setMatching({ ...matching, columns });
  };
  return (
    <>
      <section className="import">
        <table className="list import-columns">
          <thead>
            <tr>
              <th scope="col">What it is</th>
              <th scope="col">In which column</th>
              <th scope="col">As in the first rows</th>
            </tr>
          </thead>
          <tbody>
            {job.fields.map(({ field, title, required }) => {
              const column = matching.columns[field] ?? '';
              const at = job.columns.indexOf(column);
              return (
                <tr key={field}>
                  <td>
                    {title} {required && <span className="soft">needed</span>}
                  </td>
                  <td>
                    <select
                      className="select"
                      aria-label={`Column of: ${title}`}
                      value={column}
                      onChange={(event) => put(field, event.target.value)}
                    >
                      <option value="">{required ? 'choose one' : 'none'}</option>
                      {job.columns.map((name) => (
                        <option key={name} value={name}>
                          {name}
                        </option>
                      ))}
                    </select>
                  </td>
                  <td className="soft">
                    {at < 0
                      ? ''
                      : job.sample
                          .slice(0, 3)
                          .map((row) => row[at] ?? '')
                          .filter((cell) => cell !== '')
                          .join(' · ')}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
        <label className="acts acts-line">
          <span>Days are written as</span>
          <select
            className="select"
            value={matching.dates}
            onChange={(event) => setMatching({ ...matching, dates: event.target.value as Matching['dates'] })}
          >
            {Object.entries(DATES).map(([dates, words]) => (
              <option key={dates} value={dates}>
                {words}
              </option>
            ))}
          </select>
        </label>
        {job.kind === 'ORDERS' && matching.columns.PAID === undefined && (
          <p className="soft">
            No column says whether they were paid: all of them count as paid when placed.
          </p>
        )}
      </section>
      {(look.error ?? start.error) !== null && <Fault error={look.error ?? start.error} />}
      {current === undefined && look.error === null && <Waiting what="what each row comes to" />}
      {current !== undefined && <Preview preview={current} />}
      <div className="acts">
        <button
          className="btn btn-primary"
          disabled={current === undefined || current.taken === 0 || start.isPending}
          onClick={() => start.mutate(about)}
        >
          {current === undefined ? 'Bring in' : `Bring ${counted(current.taken, 'row', 'rows')} in`}
        </button>
      </div>
    </>
  );
}

const FATES: Record<Schemas['RowFate']['fate'], string> = {
  NEW: 'is brought in',
  KNOWN: 'is known already',
  FAULTY: 'is not taken',
};

function Preview({ preview }: { preview: Schemas['ImportPreview'] }) {
  if (preview.missing.length > 0) {
    return <p className="warn">Some columns that are needed are not matched yet.</p>;
  }
  return (
    <section>
      <h3>What will come of it</h3>
      <p>
        {counted(preview.taken, 'row is', 'rows are')} brought in, {preview.known} known already,{' '}
        {preview.faulty} not taken because something is wrong.
      </p>
      <table className="list import-fates">
        <thead>
          <tr>
            <th scope="col" className="number">
              Row
            </th>
            <th scope="col">Who</th>
            <th scope="col">What becomes of it</th>
          </tr>
        </thead>
        <tbody>
          {preview.rows.map((row) => (
            <tr key={row.row}>
              <td className="number">{row.row}</td>
              <td>{row.person}</td>
              <td>
                {FATES[row.fate]}
                {row.said !== '' && `: ${row.said}`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {preview.entries > preview.rows.length && (
        <p className="soft">and {preview.entries - preview.rows.length} more</p>
      )}
    </section>
  );
}

function Progress({ job }: { job: Shown }) {
  const queries = useQueryClient();
  const settle = { onSettled: () => queries.invalidateQueries() };
  const stop = api.useMutation('post', '/api/imports/{id}/stop', settle);
  const start = api.useMutation('post', '/api/imports/{id}/start', settle);
  const about = { params: { path: { id: job.id } } };
  const fault = stop.error ?? start.error;
  return (
    <section className="rules">
      <p role="status">
        <strong>{STATES[job.state]}</strong>: {job.total - job.left} of {job.total} rows
      </p>
      <progress
        className="progress"
        max={job.total}
        value={job.total - job.left}
        aria-label="How far it is"
      />
      <p>
        {job.taken} brought in, {job.known} known already, {job.faulty} not taken.
      </p>
      {fault !== null && <Fault error={fault} />}
      <div className="acts">
        {job.state === 'RUNNING' && (
          <button className="btn" disabled={stop.isPending} onClick={() => stop.mutate(about)}>
            Stop it here
          </button>
        )}
        {job.state === 'STOPPED' && (
          <button className="btn btn-primary" disabled={start.isPending} onClick={() => start.mutate(about)}>
            Go on
          </button>
        )}
        {job.faulty > 0 && (
          <a className="btn" href={`/api/imports/${job.id}/faulty.csv`} download>
            {counted(job.faulty, 'row', 'rows')} to mend
          </a>
        )}
      </div>
      {job.state === 'RUNNING' && (
        <p className="soft">It goes on when you leave this page, and after a server was started anew.</p>
      )}
    </section>
  );
}
