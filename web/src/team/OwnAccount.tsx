import { useQueryClient } from '@tanstack/react-query';
import { useState, type SyntheticEvent } from 'react';
import { api } from '../api/client';
import { useSession } from '../session/session';
import { Field } from '../ui/Field';
import { Fault, Screen } from '../ui/parts';
import { ROLES } from './roles';

const NOTHING = { present: '', next: '' };

/** Who is signed in, and their password. */
export function OwnAccount() {
  const { name, email, role } = useSession();
  const queries = useQueryClient();
  const [password, setPassword] = useState(NOTHING);
  const change = api.useMutation('put', '/api/session/password', {
    onSuccess: () => {
      setPassword(NOTHING);
      return queries.invalidateQueries();
    },
  });
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    if (!change.isPending) change.mutate({ body: password });
  };
  return (
    <Screen>
      <div className="headline">
        <h1>{name}</h1>
        <p>
          {email}
          {role !== undefined && ` · ${ROLES[role].title}: ${ROLES[role].may}`}
        </p>
      </div>
      <section>
        <h2>Another password</h2>
        <form className="panel" aria-label="Another password" onSubmit={submit}>
          <div className="two">
            <Field
              label="Your password until now"
              type="password"
              autoComplete="current-password"
              value={password.present}
              onChange={(present) => setPassword({ ...password, present })}
              maxLength={200}
              required
            />
            <Field
              label="Your new password"
              type="password"
              autoComplete="new-password"
              value={password.next}
              onChange={(next) => setPassword({ ...password, next })}
              hint="At least 10 characters. Wherever else you are signed in, you are signed out."
              maxLength={200}
              required
            />
          </div>
          {change.error !== null && <Fault error={change.error} />}
          {change.isSuccess && <p role="status">Your password is changed.</p>}
          <div className="acts">
            <button className="btn btn-primary" disabled={change.isPending}>
              Change it
            </button>
          </div>
        </form>
      </section>
    </Screen>
  );
}
