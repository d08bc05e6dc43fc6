import type { Named } from './things';
import { Acts, Button, Check, Input } from '../ui/kit';

/** What it is called, where the school itself says so. */
export function Name({ thing, put }: { thing: Named; put: (to: unknown) => void }) {
  return (
    <Check>
      It is called
      <Input
        maxLength={200}
        value={thing.title ?? thing.id}
        onChange={(event) => put({ ...thing, title: event.target.value })}
      />
    </Check>
  );
}

export function Go({ what, onGo }: { what: string; onGo: () => void }) {
  return (
    <Acts className="items-center">
      <Button small onClick={onGo}>
        Take {what} out of the mapping
      </Button>
      <span className="text-soft">In the draft; refused while links still use it.</span>
    </Acts>
  );
}
