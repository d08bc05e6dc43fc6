import { useShownPasskey, withoutPasskeys } from './passkeys';
import type { Schemas } from '../api/client';
import { Button, Fault } from '../ui/kit';

interface Props {
  session: Schemas['Session'];
  to: Parameters<typeof useShownPasskey>[0];
  onDone: () => void;
}

/** Where there can be passkeys, for who would rather not type a password. */
export function PasskeyButton({ session, to, onDone }: Props) {
  const show = useShownPasskey(to, onDone);
  if (withoutPasskeys(session) !== undefined) return null;
  return (
    <>
      {show.error !== null && <Fault error={show.error} />}
      <Button disabled={show.isPending} onClick={() => show.mutate()}>
        {show.isPending ? 'Asking the device …' : 'By passkey'}
      </Button>
    </>
  );
}
