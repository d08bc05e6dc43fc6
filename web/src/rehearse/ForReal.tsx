import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { useTouch } from '../api/touch';
import { Dialog } from '../ui/Dialog';
import { counted } from '../ui/words';
import { Acts, Alarm, Badge, Button, Fault, Row, Rows, RowWords } from '../ui/kit';
import type { Story } from './model';

type Trip = Schemas['Trip'];

/** Takes the story through the connected systems once it is confirmed, and says what each answered and then held. */
export function ForReal({ story, systems }: { story: Story; systems: string[] }) {
  const touch = useTouch();
  const [asking, setAsking] = useState(false);
  const run = api.useMutation('post', '/api/rehearsals/for-real', { onSettled: () => touch('systems') });
  return (
    <>
      <Button onClick={() => setAsking(true)}>For real …</Button>
      {asking && (
        <Dialog title="Take it through the systems for real?" wide onClose={() => setAsking(false)}>
          {run.data === undefined ? (
            <>
              <p>
                {systems.length === 0
                  ? 'Nothing of this story is told to any system.'
                  : `${systems.join(', ')} ${systems.length === 1 ? 'is' : 'are'} really told what this story says, for people who do not exist, under the rulebook in force. What each then holds is compared with what is predicted here, and all of it is taken back.`}
              </p>
              <p className="text-soft">
                Accounts that are made there stay, for no system is told to drop one. No letter is sent, and
                nothing of it is kept in Yoru but a line in the journal.
              </p>
              {run.error !== null && <Fault error={run.error} />}
              <Acts>
                <Button
                  kind="main"
                  disabled={run.isPending || systems.length === 0}
                  onClick={() => run.mutate({ body: { story: story as never } })}
                >
                  {run.isPending ? 'Going through …' : 'Tell the systems'}
                </Button>
                <Button onClick={() => setAsking(false)}>Not now</Button>
              </Acts>
            </>
          ) : (
            <Came trip={run.data} onDone={() => setAsking(false)} />
          )}
        </Dialog>
      )}
    </>
  );
}

function Came({ trip, onDone }: { trip: Trip; onDone: () => void }) {
  const failed = trip.told.filter((one) => !one.well);
  return (
    <>
      <Rows>
        {trip.compared.map((one) => {
          const same = one.fault === undefined && one.lacking.length === 0 && one.besides.length === 0;
          return (
            <Row key={`${one.system} ${one.name}`}>
              <RowWords>
                <strong>
                  {one.title}
                  {one.name !== '' && `, ${one.name}`}
                </strong>
                <span>
                  {one.fault ??
                    (same
                      ? `held ${counted(one.predicted, 'thing', 'things')} in the end, as predicted`
                      : [
                          one.lacking.length > 0 && `lacked ${one.lacking.join(', ')}`,
                          one.besides.length > 0 && `held besides ${one.besides.join(', ')}`,
                        ]
                          .filter(Boolean)
                          .join('; '))}
                </span>
              </RowWords>
              <Badge tone={same ? 'good' : 'bad'}>{same ? 'as predicted' : 'otherwise'}</Badge>
            </Row>
          );
        })}
      </Rows>
      {failed.map((one) => (
        <Alarm key={`${one.step} ${one.system} ${one.says} ${one.name}`} role="alert">
          <strong>
            {one.title}, {one.name}: {one.says}
          </strong>
          <span>{one.answer}</span>
        </Alarm>
      ))}
      <details>
        <summary>All {counted(trip.told.length, 'answer', 'answers')}</summary>
        <ul className="mt-2 grid gap-1 text-[0.92rem]">
          {trip.told.map((one, at) => (
            <li key={at}>
              {one.title}, {one.name}: {one.says} <span className="text-soft">→ {one.answer}</span>
            </li>
          ))}
        </ul>
      </details>
      <p className="text-soft">
        {trip.left.length === 0
          ? 'All of it was taken back.'
          : `Taken back, but for ${trip.left.join(', ')}.`}
      </p>
      <Acts>
        <Button kind="main" onClick={onDone}>
          Done
        </Button>
      </Acts>
    </>
  );
}

/** Which systems a report says are told anything. */
export function toldIn(report: Schemas['RehearsalReport'] | undefined): string[] {
  return [
    ...new Set(
      (report?.steps ?? []).flatMap((step) =>
        step.passages.flatMap((passage) =>
          passage.people.flatMap((one) => one.told.map(({ title }) => title)),
        ),
      ),
    ),
  ];
}
