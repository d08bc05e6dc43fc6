import { api, type Schemas } from '../api/client';
import { useTouch } from '../api/touch';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { counted } from '../ui/words';
import type { SystemShown } from './words';
import { Acts, Badge, Button, Empty, Fault, Row, Rows, RowWords, Waiting, type Tone } from '../ui/kit';

const WAITS_MS = 3_000;

function standing(sign: Schemas['SignShown']): [Tone, string] {
  if (sign.differs) return ['bad', 'shows something else'];
  switch (sign.state) {
    case 'SHOWN':
      return ['good', 'shown'];
    case 'REFUSED':
      return ['bad', 'refused'];
    case 'WAITING':
      return ['lamp', 'waits'];
  }
}

/** What a system shows at doors or after buying, as it was told and as it was found. */
export function ShownThere({ system }: { system: SystemShown }) {
  const { zone } = useSession();
  const touch = useTouch();
  const params = { params: { path: { id: system.id } } };
  const shown = api.useQuery('get', '/api/systems/{id}/shown', params, { refetchInterval: WAITS_MS });
  const settled = { onSettled: () => touch('systems') };
  const look = api.useMutation('post', '/api/systems/{id}/shown/look', settled);
  const again = api.useMutation('post', '/api/systems/{id}/shown/again', settled);
  if (shown.data === undefined) {
    return shown.error === null ? <Waiting what="what it shows" /> : <Fault error={shown.error} />;
  }
  const off = shown.data.filter((sign) => sign.differs || sign.state === 'REFUSED');
  if (shown.data.length === 0) {
    return (
      <Empty title="It is told nothing to show yet.">It is told within moments of being switched on.</Empty>
    );
  }
  return (
    <section aria-label="What it shows" className="grid gap-3">
      <Acts className="items-center">
        <Button disabled={look.isPending} onClick={() => look.mutate(params)}>
          Look now
        </Button>
        {off.length > 0 && (
          <Button kind="main" disabled={again.isPending} onClick={() => again.mutate(params)}>
            Put {counted(off.length, 'place', 'places')} right
          </Button>
        )}
        <span className="text-soft">
          {off.length === 0
            ? `It shows what it should at ${counted(shown.data.length, 'place', 'places')}.`
            : `${counted(off.length, 'place is', 'places are')} not as it should be.`}{' '}
          It is compared by itself, too.
        </span>
      </Acts>
      {look.error !== null && <Fault error={look.error} />}
      {again.error !== null && <Fault error={again.error} />}
      <Rows>
        {[...off, ...shown.data.filter((sign) => !off.includes(sign))].map((sign) => {
          const [tone, words] = standing(sign);
          return (
            <Row key={sign.place}>
              <RowWords>
                <strong>{sign.title}</strong>
                <span>
                  {sign.answer ?? 'not told yet'}
                  {sign.answeredAt !== undefined && `, ${shownTime(sign.answeredAt, zone)}`}
                </span>
              </RowWords>
              <Badge tone={tone}>{words}</Badge>
            </Row>
          );
        })}
      </Rows>
    </section>
  );
}
