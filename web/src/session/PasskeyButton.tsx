import { withoutPasskeys, type ShownPasskey } from './passkeys';
import type { Schemas } from '../api/client';
import { Button } from '../ui/kit';

/** Where there can be passkeys, for who would rather not type a password. */
export function PasskeyButton({ session, shown }: { session: Schemas['Session']; shown: ShownPasskey }) {
  if (withoutPasskeys(session) !== undefined) return null;
  return (
    <Button disabled={shown.isPending} onClick={() => shown.mutate()}>
      {shown.isPending ? 'Asking the device …' : 'By passkey'}
    </Button>
  );
}
