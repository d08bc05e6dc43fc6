import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { useTouch } from '../api/touch';
import { Dialog } from '../ui/Dialog';
import { counted } from '../ui/words';
import { Acts, Alarm, Badge, Button, Check, Checkbox, Fault, Row, Rows, RowWords, Waiting } from '../ui/kit';
import type { Story } from './model';

type Trip = Schemas['Trip'];

/** Takes the story through the systems that are chosen, and says what each answered and then held. */
export function ForReal({ story, told }: { story: Story; told: string[] }) {
  const [asking, setAsking] = useState(false);
  return (
    <>
      <Button onClick={() => setAsking(true)}>For real …</Button>
      {asking && (
        <Dialog title="Take it through the systems for real?" wide onClose={() => setAsking(false)}>
          <Through story={story} told={told} onDone={() => setAsking(false)} />
        </Dialog>
      )}
    </>
  );
}

/** Which of them are told: those that the story tells anything, and those that are being tried. */
function Through({ story, told, onDone }: { story: Story; told: string[]; onDone: () => void }) {
  const touch = useTouch();
  const read = api.useQuery('get', '/api/systems');
  const [left, setLeft] = useState<string[]>([]);
  const run = api.useMutation('post', '/api/rehearsals/for-real', { onSettled: () => touch('systems') });
  if (run.data !== undefined) return <Came trip={run.data} onDone={onDone} />;
  if (read.data === undefined)
    return read.error === null ? <Waiting what="the systems" /> : <Fault error={read.error} />;
  const offered = read.data.systems.filter(
    ({ id, state }) => state === 'TRYING' || (state === 'ON' && told.includes(id)),
  );
  const systems = offered.map(({ id }) => id).filter((id) => !left.includes(id));
  return (
    <>
      <p>
        {offered.length === 0
          ? 'Nothing of this story is told to any system.'
          : 'Each of these is really told what this story says, for people who do not exist, under the rulebook in force. What it then holds is compared with what is predicted here, and all of it is taken back.'}
      </p>
      {offered.length > 0 && (
        <fieldset className="grid gap-1.5">
          <legend className="sr-only">Which systems are told</legend>
          {offered.map(({ id, title, state }) => (
            <Check key={id}>
              <Checkbox
                checked={!left.includes(id)}
                onChange={({ target }) =>
                  setLeft(target.checked ? left.filter((one) => one !== id) : [...left, id])
                }
              />
              <span>
                {title}
                {state === 'TRYING' && <span className="text-soft"> is only being tried</span>}
              </span>
            </Check>
          ))}
        </fieldset>
      )}
      <p className="text-soft">
        Accounts that are made there stay, for no system is told to drop one. No letter is sent, and nothing
        of it is kept in Yoru but a line in the journal.
      </p>
      {run.error !== null && <Fault error={run.error} />}
      <Acts>
        <Button
          kind="main"
          disabled={run.isPending || systems.length === 0}
          onClick={() => run.mutate({ body: { story: story as never, systems } })}
        >
          {run.isPending ? 'Going through …' : 'Tell the systems'}
        </Button>
        <Button onClick={onDone}>Not now</Button>
      </Acts>
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

/** The ids of the systems that a report says are told anything. */
export function toldIn(report: Schemas['RehearsalReport'] | undefined): string[] {
  return [
    ...new Set(
      (report?.steps ?? []).flatMap((step) =>
        step.passages.flatMap((passage) =>
          passage.people.flatMap((one) => one.told.map(({ system }) => system)),
        ),
      ),
    ),
  ];
}
