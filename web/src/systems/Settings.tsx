import { useQueryClient } from '@tanstack/react-query';
import { useState, type SubmitEvent } from 'react';
import { api } from '../api/client';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { Field } from '../ui/Field';
import { Fault } from '../ui/parts';
import { DIFFERENCES, KINDS, type DifferenceKind, type SystemShown } from './words';

const BY_ITSELF: Record<DifferenceKind, string> = {
  MISSING: 'what is missing there is put back',
  EXTRA: 'what is too much there is taken away',
  DIFFERENT: 'another end there is set right',
};

/** What was set for a system; secrets can be changed, and are never shown. */
export function Settings({ system }: { system: SystemShown }) {
  const queries = useQueryClient();
  const [title, setTitle] = useState(system.title);
  const [address, setAddress] = useState(system.address);
  const [token, setToken] = useState('');
  const [perSecond, setPerSecond] = useState(system.settings['perSecond'] ?? '50');
  const [from, setFrom] = useState(system.settings['from'] ?? '');
  const [nextEnd, setNextEnd] = useState(system.settings['nextEndField'] ?? '');
  const [byItself, setByItself] = useState((system.settings['correct'] ?? '').split(',').filter(Boolean));
  const [bearer, setBearer] = useState(system.settings['proof'] === 'bearer');
  const change = api.useMutation('put', '/api/systems/{id}', {
    onSuccess: () => {
      setToken('');
      return queries.invalidateQueries();
    },
  });
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    change.mutate({
      params: { path: { id: system.id } },
      body: {
        title,
        address,
        ...(token !== '' && { token }),
        settings: {
          perSecond,
          correct: byItself.join(','),
          ...(system.reportsTo !== undefined && { proof: bearer ? 'bearer' : 'signature' }),
          ...(system.kind === 'MAILBOX' && { from }),
          ...(system.abilities.includes('FIELDS') && { nextEndField: nextEnd.trim() }),
        },
      },
    });
  };
  return (
    <form className="setup" onSubmit={submit}>
      <Field label="What you call it" value={title} onChange={setTitle} />
      <Field label={KINDS[system.kind].address} value={address} onChange={setAddress} />
      {system.kind === 'MAILBOX' && <Field label="Letters come from" value={from} onChange={setFrom} />}
      {system.kind !== 'LISTENER' && system.kind !== 'FOLDER' && (
        <Field
          label={system.kind === 'MAILBOX' ? 'Another password' : 'Another token'}
          type="password"
          value={token}
          onChange={setToken}
          hint={system.hasToken ? 'One is set; left empty, it stays.' : 'None is set.'}
        />
      )}
      {system.reportsTo !== undefined && (
        <label className="check">
          <input
            type="checkbox"
            className="checkbox"
            checked={bearer}
            onChange={(event) => setBearer(event.target.checked)}
          />
          it cannot sign: the secret comes along in the header Authorization
        </label>
      )}
      {system.kind !== 'SHOP' && (
        <Field
          label="Requests per second, at most"
          type="number"
          value={perSecond}
          onChange={setPerSecond}
          hint="By each of Yoru's servers; 0 = no limit."
        />
      )}
      {system.abilities.includes('FIELDS') && (
        <Field
          label="Field for the next end"
          value={nextEnd}
          onChange={setNextEnd}
          hint="Kept up to date with the day on which the first of what somebody has ends, as 2027-03-01; empty = no field is set."
        />
      )}
      {system.abilities.includes('LISTING') && (
        <fieldset className="kinds">
          <legend>When it is compared, by itself</legend>
          {DIFFERENCES.map((kind) => (
            <label className="check" key={kind}>
              <input
                type="checkbox"
                className="checkbox"
                checked={byItself.includes(kind)}
                onChange={(event) =>
                  setByItself(
                    event.target.checked ? [...byItself, kind] : byItself.filter((one) => one !== kind),
                  )
                }
              />
              {BY_ITSELF[kind]}
            </label>
          ))}
        </fieldset>
      )}
      {change.error !== null && <Fault error={change.error} />}
      {change.isSuccess && (
        <p role="status" className="good">
          Kept.
        </p>
      )}
      <div className="acts">
        <button className="btn btn-primary" disabled={change.isPending}>
          Keep
        </button>
      </div>
      {(system.kind === 'LISTENER' || system.reportsTo !== undefined) && <Secret system={system} />}
    </form>
  );
}

function Secret({ system }: { system: SystemShown }) {
  const { zone } = useSession();
  const queries = useQueryClient();
  const [own, setOwn] = useState('');
  const change = api.useMutation('post', '/api/systems/{id}/secret', {
    onSettled: () => queries.invalidateQueries(),
  });
  const to = (secret?: string) =>
    change.mutate({ params: { path: { id: system.id } }, body: secret === undefined ? {} : { secret } });
  return (
    <fieldset className="kinds">
      <legend>The secret that signs</legend>
      <p className="soft">
        {system.secretAt === undefined
          ? 'None is set.'
          : `Set ${shownTime(system.secretAt, zone)}, never shown again.`}
        {system.formerSecretUntil !== undefined &&
          ` The one before is good until ${shownTime(system.formerSecretUntil, zone)}.`}{' '}
        Change it, and the old one is still taken for 24 hours.
      </p>
      <Field label="The other side's secret" type="password" value={own} onChange={setOwn} />
      <div className="acts">
        <button
          type="button"
          className="btn btn-sm"
          disabled={own === '' || change.isPending}
          onClick={() => {
            to(own);
            setOwn('');
          }}
        >
          Use this one
        </button>
        <button type="button" className="btn btn-sm" disabled={change.isPending} onClick={() => to()}>
          Make a new one
        </button>
      </div>
      {change.error !== null && <Fault error={change.error} />}
      {change.data?.secret !== undefined && (
        <p className="secret" role="status">
          Paste it into the other side now; it is not shown again: <code>{change.data.secret}</code>
        </p>
      )}
    </fieldset>
  );
}
