import { useState, type SubmitEvent } from 'react';
import { api } from '../api/client';
import { Fault } from '../ui/parts';
import { Door } from './Door';
import { Field } from '../ui/Field';

/** Nobody can sign in yet: whoever comes first makes the owner's account. */
export function FirstRun({ onDone }: { onDone: () => void }) {
  const [name, setName] = useState('');
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const make = api.useMutation('post', '/api/owner', { onSuccess: onDone });
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    make.mutate({ body: { name, email, password } });
  };
  return (
    <Door
      says="Nobody has used this Yoru yet. The first account is the owner’s."
      title="Make the owner’s account"
    >
      <form onSubmit={submit} className="form">
        {make.error !== null && <Fault error={make.error} />}
        <Field required label="Your name" autoComplete="name" value={name} onChange={setName} first />
        <Field
          required
          label="E-mail address"
          type="email"
          autoComplete="username"
          value={email}
          onChange={setEmail}
        />
        <Field
          required
          label="Password"
          type="password"
          autoComplete="new-password"
          value={password}
          onChange={setPassword}
          hint="At least 10 characters; several words are easiest to remember."
        />
        <button className="btn btn-primary" disabled={make.isPending}>
          {make.isPending ? 'Making it …' : 'Make the account'}
        </button>
      </form>
    </Door>
  );
}
