import { useNavigate } from '@tanstack/react-router';
import { useState, type SubmitEvent } from 'react';
import { api, type Schemas } from '../api/client';
import { Field } from '../ui/Field';
import { Fault, Margin, Screen, Waiting } from '../ui/parts';
import { useSettled } from '../ui/settled';
import { ABILITIES, KINDS, type Kind } from './words';

/** A new connection: what is pasted is put right and shown before anything is kept. */
export function AddSystem() {
  const all = api.useQuery('get', '/api/systems');
  if (all.data === undefined) {
    return <Screen>{all.error === null ? <Waiting what="the kinds" /> : <Fault error={all.error} />}</Screen>;
  }
  return <Form kinds={all.data.kinds} />;
}

function Form({ kinds }: { kinds: Schemas['KindShown'][] }) {
  const navigate = useNavigate();
  const [kind, setKind] = useState<Kind>('CLASSROOM');
  const [title, setTitle] = useState('');
  const [address, setAddress] = useState('');
  const [token, setToken] = useState('');
  const [user, setUser] = useState('');
  const [from, setFrom] = useState('');
  const [made, setMade] = useState<Schemas['Added']>();
  const [settled] = useSettled(address, 150);
  const tidy = api.useQuery(
    'post',
    '/api/systems/address',
    { body: { kind, address: settled } },
    { enabled: settled.trim() !== '' },
  );
  const add = api.useMutation('post', '/api/systems', {
    onSuccess: (added) => {
      if (added.secret === undefined) void navigate({ to: '/systems/$id', params: { id: added.id } });
      else setMade(added);
    },
  });
  const words = KINDS[kind];
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    add.mutate({
      body: {
        kind,
        title: title.trim() === '' ? words.name : title,
        address,
        ...(token !== '' && { token }),
        ...(kind === 'MAILBOX' && { settings: { from, ...(user !== '' && { user }) } }),
      },
    });
  };
  if (made?.secret !== undefined) {
    return <NewSecret id={made.id} secret={made.secret} />;
  }
  return (
    <Screen
      margin={
        <Margin label="What follows">
          <section>
            <h2>{words.name}</h2>
            <p className="soft">{words.does}.</p>
            <p>
              {kinds
                .find((known) => known.kind === kind)
                ?.abilities.map((ability) => ABILITIES[ability])
                .join(' · ')}
            </p>
          </section>
          <section>
            <h2>Before it is used</h2>
            <p className="soft">
              It begins switched off: nothing is sent there and nothing taken from there. Test it, try it
              once, then switch it on; it is told then everything that should be so.
            </p>
          </section>
        </Margin>
      }
    >
      <div className="headline">
        <h1>Add a system</h1>
      </div>
      <form className="setup" onSubmit={submit}>
        <fieldset className="kinds">
          <legend>What is it?</legend>
          {kinds.map((known) => (
            <label className="check" key={known.kind}>
              <input
                type="radio"
                className="radio"
                name="kind"
                checked={kind === known.kind}
                onChange={() => setKind(known.kind)}
              />
              <span>
                <strong>{KINDS[known.kind].name}</strong>{' '}
                <span className="soft">{KINDS[known.kind].does}</span>
              </span>
            </label>
          ))}
        </fieldset>
        <Field
          label="What you call it"
          maxLength={80}
          placeholder={words.name}
          value={title}
          onChange={setTitle}
        />
        <Field
          label={words.address}
          maxLength={2000}
          required
          placeholder={words.placeholder}
          value={address}
          onChange={setAddress}
          hint={<Tidied pasted={address} tidy={tidy.data} />}
        />
        {kind === 'MAILBOX' && (
          <>
            <Field
              label="Letters come from"
              required
              placeholder="Your school <hello@your-school.example>"
              value={from}
              onChange={setFrom}
            />
            <Field label="Name to sign in with" value={user} onChange={setUser} />
          </>
        )}
        {kind !== 'LISTENER' && kind !== 'FOLDER' && (
          <Field
            label={kind === 'MAILBOX' ? 'Password' : 'Token that lets Yoru in'}
            type="password"
            value={token}
            onChange={setToken}
            hint="Kept encrypted, and never shown again."
          />
        )}
        {add.error !== null && <Fault error={add.error} />}
        <div className="acts">
          <button className="btn btn-primary" disabled={add.isPending || tidy.data?.fault !== undefined}>
            {add.isPending ? 'Adding …' : 'Add it, switched off'}
          </button>
        </div>
      </form>
    </Screen>
  );
}

function Tidied({ pasted, tidy }: { pasted: string; tidy: Schemas['PastedAddress'] | undefined }) {
  if (pasted.trim() === '' || tidy === undefined) return null;
  return (
    <p aria-live="polite" className={tidy.fault === undefined ? 'soft' : 'bad'}>
      {tidy.address !== '' && <code>{tidy.address}</code>}{' '}
      {[...tidy.changes, tidy.fault].filter(Boolean).join('; ')}
    </p>
  );
}

/** Shown this once: whoever needs it again makes a new one. */
export function NewSecret({ id, secret }: { id: string; secret: string }) {
  const navigate = useNavigate();
  return (
    <Screen>
      <div className="headline">
        <h1>The secret that signs</h1>
      </div>
      <p>Paste it into the other side now. It is kept encrypted here and is never shown again.</p>
      <p className="secret">
        <code>{secret}</code>
      </p>
      <button
        className="btn btn-primary"
        onClick={() => void navigate({ to: '/systems/$id', params: { id } })}
      >
        I have it
      </button>
    </Screen>
  );
}
