import { useTouch } from '../api/touch';
import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { FileButton } from '../ui/FileButton';
import { useSettled } from '../ui/settled';
import { counted } from '../ui/words';
import { FieldEditor } from './FieldEditor';
import { HandOver } from './HandOver';
import {
  inShort,
  leaves,
  NO_MATCHING,
  pickedPath,
  plainly,
  usedBy,
  withCondition,
  type MatchingDocument,
  placeInWords,
} from './matching';
import { Hint } from '../ui/Hint';
import { Rules } from './Rules';
import type { SystemShown } from './words';
import {
  Acts,
  Button,
  buttonLook,
  DOT,
  Empty,
  Facts,
  Fault,
  Input,
  Panel,
  Record,
  TextButton,
  Waiting,
} from '../ui/kit';

/** What of a report is matched to something. */
const USED = 'rounded-xs bg-period px-0.5 text-period-ink';

/** What the next value that is clicked in the report is for. */
type Picking = { field: string; rule?: undefined } | { rule: number; field?: undefined };

type Shown = Schemas['MatchingShown'];
type TrialOfOne = Schemas['TrialOfOne'];

/** What came in beside what Yoru understands of it. */
export function Matching({ system }: { system: SystemShown }) {
  const matching = api.useQuery(
    'get',
    '/api/systems/{id}/matching',
    { params: { path: { id: system.id } } },
    { refetchInterval: 5_000 },
  );
  if (matching.data === undefined) {
    return matching.error === null ? <Waiting what="the matching" /> : <Fault error={matching.error} />;
  }
  return <Workbench key={matching.data.version} system={system} shown={matching.data} />;
}

function Workbench({ system, shown }: { system: SystemShown; shown: Shown }) {
  const { address } = useSession();
  const published = (shown.document as MatchingDocument | undefined) ?? NO_MATCHING;
  const [document, setDocument] = useState(published);
  const [picking, setPicking] = useState<Picking>();
  const field = picking?.field;
  const [at, setAt] = useState(0);
  const [settled] = useSettled(document, 150);
  const trial = api.useQuery(
    'post',
    '/api/systems/{id}/matching/trial',
    {
      params: { path: { id: system.id } },
      body: { document: settled as unknown as Record<string, unknown> },
    },
    { placeholderData: (previous) => previous },
  );
  const report = shown.latest[Math.min(at, shown.latest.length - 1)];
  const result = trial.data?.reports.find((one) => one.id === report?.id);
  const facts = new Set(document.rules.flatMap((rule) => rule.facts));
  const fields = shown.fields.filter((one) => one.facts.some((fact) => facts.has(fact)));
  const changed = JSON.stringify(document) !== JSON.stringify(published);
  const pick = (path: string, value: string) => {
    if (picking?.rule !== undefined) {
      setDocument({ ...document, rules: withCondition(document.rules, picking.rule, path, value) });
      setPicking(undefined);
    }
    if (field === undefined) return;
    const from = document.fields[field];
    setDocument({
      ...document,
      fields: {
        ...document.fields,
        [field]: {
          path: pickedPath(field, path, document.fields['lines']?.path),
          ...(from?.steps !== undefined && { steps: from.steps }),
        },
      },
    });
  };
  return (
    <>
      <div className="mb-3 grid items-start gap-3 xl:grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
        <Panel aria-label="What came in">
          <div className="flex items-baseline justify-between">
            <h2>What came in</h2>
            {shown.latest.length > 0 && (
              <span className="text-soft">
                {Math.min(at, shown.latest.length - 1) + 1} of the last {shown.latest.length}{' '}
                <TextButton aria-label="A later report" disabled={at === 0} onClick={() => setAt(at - 1)}>
                  ‹
                </TextButton>{' '}
                <TextButton
                  aria-label="An earlier report"
                  disabled={at >= shown.latest.length - 1}
                  onClick={() => setAt(at + 1)}
                >
                  ›
                </TextButton>
              </span>
            )}
          </div>
          {report === undefined ? (
            <Empty title="Nothing has come in yet.">
              {system.reportsTo === undefined ? (
                <p>
                  Put a CSV file into its folder, under <code>in</code>, or hand one over below, while this
                  system is being tried; each row is shown here as a report.
                </p>
              ) : (
                <p>
                  Have the other side report to <code>{address + system.reportsTo}</code> while this system is
                  being tried; what comes is shown here.
                  {system.refused > 0 && (
                    <strong className="block text-error">
                      {counted(system.refused, 'report has', 'reports have')} come and been turned away: their
                      signature does not fit. Give the other side the secret of this system, or make a new one
                      under Settings.
                    </strong>
                  )}
                </p>
              )}
            </Empty>
          ) : (
            <Report body={report.body} document={document} picking={picking !== undefined} onPick={pick} />
          )}
        </Panel>
        <Panel aria-label="What Yoru understands">
          <h2>What Yoru understands</h2>
          <Rules
            rules={document.rules}
            facts={shown.facts}
            picking={picking?.rule}
            onPick={(rule) => setPicking(rule === undefined ? undefined : { rule })}
            onChange={(rules) => setDocument({ ...document, rules })}
          />
          {result?.told === false && (
            <p className="text-soft">No rule fits this report: it would be set aside.</p>
          )}
          <ul>
            {fields.map((one) => (
              <UnderstoodRow
                key={one.id}
                field={one}
                document={document}
                result={result}
                selected={field === one.id}
                onSelect={() => setPicking(field === one.id ? undefined : { field: one.id })}
                onChange={setDocument}
              />
            ))}
          </ul>
        </Panel>
      </div>
      {trial.data?.faults.map((fault) => (
        <p key={fault.field} className="text-error" role="alert">
          <code>{fault.field}</code> {fault.problem}
        </p>
      ))}
      {trial.error !== null && <Fault error={trial.error} />}
      <Latest shown={shown} trial={trial.data} at={at} onAt={setAt} />
      {(system.reportsTo === undefined || shown.version > 0) && <HandOver system={system} />}
      <Keep
        system={system}
        shown={shown}
        document={document}
        changed={changed}
        onDiscard={() => setDocument(published)}
        onImport={setDocument}
      />
    </>
  );
}

function Report({
  body,
  document,
  picking,
  onPick,
}: {
  body: string;
  document: MatchingDocument;
  picking: boolean;
  onPick: (path: string, value: string) => void;
}) {
  let json: unknown;
  try {
    json = JSON.parse(body);
  } catch {
    return <Record>{body}</Record>;
  }
  return (
    <ul className="font-code text-2xs leading-[1.75] wrap-anywhere">
      {leaves(json).map((leaf, number) => (
        <li key={number} style={{ paddingLeft: `${leaf.depth * 0.9}rem` }}>
          <span>{leaf.label}</span>
          {leaf.bracket === true ? (
            leaf.value
          ) : !picking ? (
            <span className={usedBy(leaf.path, document).length > 0 ? USED : undefined}>{leaf.value}</span>
          ) : (
            <Hint words={placeInWords(leaf.path)}>
              <button
                className={`cursor-pointer border-b border-dashed border-soft text-left hover:bg-held hover:text-[#1d1e3a] ${usedBy(leaf.path, document).length > 0 ? USED : ''}`}
                onClick={() => onPick(leaf.path, plainly(leaf.value))}
              >
                {leaf.value}
              </button>
            </Hint>
          )}
        </li>
      ))}
    </ul>
  );
}

interface RowProps {
  field: Schemas['FieldShown'];
  document: MatchingDocument;
  result: TrialOfOne | undefined;
  selected: boolean;
  onSelect: () => void;
  onChange: (document: MatchingDocument) => void;
}

function UnderstoodRow({ field, document, result, selected, onSelect, onChange }: RowProps) {
  const from = document.fields[field.id];
  const fault = result?.faults.find((one) => one.field === field.id);
  const missing = from === undefined && field.required;
  const value = result?.values[field.id];
  return (
    <li
      className={`grid grid-cols-1 gap-x-3 border-b border-line py-1.5 whitespace-pre-line sm:grid-cols-[12.5rem_minmax(0,1fr)] ${selected ? '-mx-2 bg-figure px-2' : ''}`}
    >
      <button
        data-part="understood"
        className={`cursor-pointer text-left font-semibold [&_span]:text-[0.85rem] [&_span]:font-normal ${missing || fault !== undefined ? 'text-error' : ''}`}
        aria-expanded={selected}
        onClick={onSelect}
      >
        {field.title}
        {!field.required && <span className="text-soft"> may be left out</span>}
      </button>
      <span className={fault !== undefined || missing ? 'text-error' : undefined}>
        {fault !== undefined
          ? fault.problem
          : missing
            ? 'must be known'
            : (value ?? (from === undefined || result?.told === false ? '' : 'not in this one'))}
      </span>
      <code className="col-span-full text-soft">{inShort(from)}</code>
      {selected && (
        <FieldEditor
          field={field}
          from={from}
          onChange={(next) => {
            const rest = Object.fromEntries(
              Object.entries(document.fields).filter(([id]) => id !== field.id),
            );
            onChange({ ...document, fields: next === undefined ? rest : { ...rest, [field.id]: next } });
          }}
        />
      )}
    </li>
  );
}

const TONES = { good: 'good', bad: 'bad', off: 'soft' } as const;

/** One mark for each of the latest reports, under the matching as it is being edited. */
function Latest({
  shown,
  trial,
  at,
  onAt,
}: {
  shown: Shown;
  trial: Schemas['Trial'] | undefined;
  at: number;
  onAt: (at: number) => void;
}) {
  if (shown.latest.length === 0) return null;
  const of = (id: number) => trial?.reports.find((one) => one.id === id);
  const kind = (one: TrialOfOne | undefined) =>
    one === undefined ? 'off' : !one.told ? 'off' : one.faults.length > 0 ? 'bad' : 'good';
  const count = (wanted: string) => shown.latest.filter((report) => kind(of(report.id)) === wanted).length;
  const words = [
    `${count('good')} understood`,
    count('bad') > 0 && `${count('bad')} with a fault`,
    count('off') > 0 && `${count('off')} that no rule fits`,
  ].filter(Boolean);
  return (
    <Panel aria-label="The last reports">
      <h2>The last {shown.latest.length}</h2>
      <div className="flex flex-wrap items-center gap-1">
        {shown.latest.map((report, number) => {
          const one = of(report.id);
          const says =
            one === undefined || !one.told
              ? 'no rule fits it'
              : one.faults.length > 0
                ? one.faults.map((fault) => `${fault.field} ${fault.problem}`).join('; ')
                : one.facts.join(', ');
          return (
            <Hint key={report.id} words={says}>
              <button
                className={`size-5 cursor-pointer rounded-xs border-0 ${DOT[TONES[kind(one)]]} aria-pressed:outline-2 aria-pressed:outline-offset-1 aria-pressed:outline-base-content`}
                aria-pressed={number === at}
                aria-label={`Report ${number + 1}: ${says}`}
                onClick={() => onAt(number)}
              />
            </Hint>
          );
        })}
        <span className="text-soft" role="status">
          {words.join(' · ')}
        </span>
      </div>
    </Panel>
  );
}

interface KeepProps {
  system: SystemShown;
  shown: Shown;
  document: MatchingDocument;
  changed: boolean;
  onDiscard: () => void;
  onImport: (document: MatchingDocument) => void;
}

function Keep({ system, shown, document, changed, onDiscard, onImport }: KeepProps) {
  const { zone } = useSession();
  const touch = useTouch();
  const [note, setNote] = useState('');
  const [unreadable, setUnreadable] = useState(false);
  const keep = api.useMutation('put', '/api/systems/{id}/matching', {
    onSuccess: () => touch('systems'),
  });
  const again = api.useMutation('post', '/api/systems/{id}/received/again', {
    onSuccess: () => touch('systems'),
  });
  const params = { params: { path: { id: system.id } } };
  const left = Object.values(shown.left).reduce((sum, many) => sum + many, 0);
  const takeBack = async (number: number) => {
    const answer = await fetch(`/api/systems/${system.id}/matching/${number}`);
    onImport((await answer.json()) as MatchingDocument);
  };
  const read = async (file: File) => {
    try {
      onImport(JSON.parse(await file.text()) as MatchingDocument);
      setUnreadable(false);
    } catch {
      setUnreadable(true);
    }
  };
  return (
    <Panel aria-label="Keeping it">
      {keep.error !== null && <Fault error={keep.error} />}
      {again.error !== null && <Fault error={again.error} />}
      <Acts className="items-center">
        <Input
          aria-label="What has changed"
          placeholder="what has changed; may be empty"
          maxLength={300}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
        <Button
          kind="main"
          disabled={!changed || keep.isPending}
          onClick={() =>
            keep.mutate({
              ...params,
              body: { document: document as unknown as Record<string, unknown>, base: shown.version, note },
            })
          }
        >
          Keep the matching
        </Button>
        <Button disabled={!changed} onClick={onDiscard}>
          Discard
        </Button>
      </Acts>
      {left > 0 && (
        <Acts className="items-center">
          <span>{counted(left, 'report is', 'reports are')} kept and not taken up.</span>
          <Button
            small
            disabled={changed || again.isPending || system.state !== 'ON'}
            onClick={() => again.mutate(params)}
          >
            Take them up now
          </Button>
          {again.data !== undefined && <span role="status">{again.data.reports} taken up.</span>}
        </Acts>
      )}
      <Acts className="items-center">
        {shown.version > 0 && (
          <a
            className={buttonLook({ small: true })}
            href={`/api/systems/${system.id}/matching/${shown.version}`}
            download={`${system.id}-matching-${shown.version}.json`}
          >
            Save as a file
          </a>
        )}
        <FileButton label="From a file" accept="application/json,.json" disabled={false} onFile={read} />
        {unreadable && <span className="text-error">This file is no JSON. Nothing was changed.</span>}
      </Acts>
      {shown.versions.length > 0 && (
        <Facts>
          {shown.versions.map((version) => (
            <li key={version.number}>
              <strong>
                Version {version.number}
                {version.number === shown.version && ', in use'}
              </strong>
              <span>
                {shownTime(version.at, zone)} · {version.by}
                {version.note !== '' && ` · ${version.note}`}{' '}
                {version.number !== shown.version && (
                  <TextButton onClick={() => void takeBack(version.number)}>Bring it back</TextButton>
                )}
              </span>
            </li>
          ))}
        </Facts>
      )}
    </Panel>
  );
}
