import * as z from 'zod';
import { api } from '../api/client';
import { NEW_PASSWORD, NEW_PASSWORD_HINT } from '../team/password';
import { Acts, Button, Fault, Field, Notice, useFields } from '../ui/kit';
import { Door } from './Door';

const SHAPE = z.object({ password: NEW_PASSWORD });

/** For who was invited, or has forgotten their password: the address in the letter has a code behind its mark. */
export function ChoosePassword({ code, onDone }: { code: string; onDone: () => void }) {
  const form = useFields(SHAPE, { password: '' });
  const choose = api.useMutation('post', '/api/session/new-password', { onError: form.land });
  return (
    <Door says="A password that only you know." title="Choose a password">
      {choose.isSuccess ? (
        <>
          <Notice>
            <p role="status">Your password is set. Sign in with it now.</p>
          </Notice>
          <Acts>
            <Button kind="main" onClick={onDone}>
              Sign in
            </Button>
          </Acts>
        </>
      ) : (
        <form
          noValidate
          onSubmit={(event) =>
            void form.handleSubmit(({ password }) => choose.mutate({ body: { code, password } }))(event)
          }
          className="flex flex-col items-start gap-3.5"
        >
          {choose.error !== null && <Fault error={choose.error} />}
          <Field
            label="Your new password"
            type="password"
            autoComplete="new-password"
            hint={NEW_PASSWORD_HINT}
            first
            {...form.field('password')}
          />
          <Acts>
            <Button kind="main" disabled={choose.isPending}>
              Set the password
            </Button>
            <Button onClick={onDone}>Back to signing in</Button>
          </Acts>
        </form>
      )}
    </Door>
  );
}
