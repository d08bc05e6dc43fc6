import * as z from 'zod';
import { api } from '../api/client';
import { ActForm, Acts, Button, ConfirmButton, Fault, Field, useFields } from '../ui/kit';

const SHAPE = z.object({ email: z.email('This is no e-mail address.') });

/** Says the same whether or not somebody has the address. */
export function Forgotten({ onEnd }: { onEnd: () => void }) {
  const form = useFields(SHAPE, { email: '' });
  const ask = api.useMutation('post', '/api/session/forgotten', { onError: form.land });
  if (ask.isSuccess) {
    return (
      <>
        <p role="status">
          If somebody of the team has this address, a letter is on its way, and says how long what it leads to
          is good. Whoever asks again and again is written to less and less often.
        </p>
        <p className="text-soft">
          No letter? Where no mailbox is connected none can be sent: ask an owner to invite you again.
        </p>
        <Acts>
          <Button onClick={onEnd}>Back to signing in</Button>
        </Acts>
      </>
    );
  }
  return (
    <ActForm
      aria-label="Another password"
      noValidate
      onConfirm={() =>
        void form.handleSubmit((body) => {
          if (!ask.isPending) ask.mutate({ body });
        })()
      }
      className="flex flex-col items-start gap-3.5"
    >
      {ask.error !== null && <Fault error={ask.error} />}
      <Field
        label="E-mail address"
        type="email"
        autoComplete="username"
        hint="A letter there leads to choosing another password."
        first
        {...form.field('email')}
      />
      <Acts>
        <ConfirmButton disabled={ask.isPending}>Write to me</ConfirmButton>
        <Button onClick={onEnd}>Back to signing in</Button>
      </Acts>
    </ActForm>
  );
}
