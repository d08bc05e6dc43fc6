import { useTouch } from '../api/touch';
import { api, type Schemas } from '../api/client';
import { isOpen } from './states';
import { useNow } from '../band/useNow';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { fromNow, shownDate, shownTime } from '../ui/dates';
import { Chain, Fault, Step, TextButton, type Tone } from '../ui/kit';

interface Props {
  person: Schemas['PersonShown'];
  target: Schemas['ShownTarget'];
  tense: 'past' | 'now' | 'future';
}

/** The chain from what happened, over the mapping, to each system's answer. */
export function Why({ person, target, tense }: Props) {
  const { zone } = useSession();
  const window = windowToExplain(target.windows);
  if (window === undefined) return null;
  return (
    <section>
      <h2>{question(target.title, window.state, tense)}</h2>
      <p className="text-soft">on {shownDate(person.asOf, zone)}</p>
      <Chain>
        {window.why.map((step, number) => (
          <Step key={number} tone={stepTone(step, window.state)}>
            <strong>{step.title}</strong>
            <span>{step.text}</span>
          </Step>
        ))}
        {target.systems.map((standing) => (
          <SystemStep key={standing.id} standing={standing} tense={tense} />
        ))}
        {target.systems.length === 0 && (
          <Step tone="soft">
            <strong>No system was told</strong>
            <span>
              {window.state === 'ENDED' || tense === 'past'
                ? 'It was over when Yoru first looked, so there was nothing to tell.'
                : target.sort === 'course'
                  ? 'No connected classroom teaches this course.'
                  : 'No connected system can be told of this yet.'}
            </span>
          </Step>
        )}
      </Chain>
    </section>
  );
}

/** The open one, else the next to come, else the last that was. */
function windowToExplain(windows: Schemas['ShownWindow'][]): Schemas['ShownWindow'] | undefined {
  return (
    windows.find((window) => isOpen(window.state)) ??
    windows.find((window) => window.state === 'SCHEDULED') ??
    windows.at(-1)
  );
}

function question(title: string, state: Schemas['ShownWindow']['state'], tense: Props['tense']): string {
  const is = { past: 'was', now: 'is', future: 'will be' }[tense];
  if (isOpen(state)) return `Why ${title} ${is} open`;
  if (state === 'SCHEDULED') return `Why ${title} opens later`;
  return `Why ${title} ${is} closed`;
}

function stepTone(step: Schemas['Step'], state: Schemas['ShownWindow']['state']): Tone {
  return step.kind === 'WINDOW' && (state === 'ENDED' || state === 'SUSPENDED') ? 'soft' : 'good';
}

function SystemStep({ standing, tense }: { standing: Schemas['DeliveryStatus']; tense: Props['tense'] }) {
  const { zone } = useSession();
  const may = useMay();
  const now = useNow(1_000);
  const touch = useTouch();
  const again = api.useMutation('post', '/api/deliveries/{id}/again', {
    onSettled: () => touch('access'),
  });
  const when = standing.answeredAt === undefined ? '' : `, ${shownTime(standing.answeredAt, zone)}`;
  const tries = standing.attempts === 1 ? 'first try' : `${standing.attempts} tries`;
  const title = {
    ANSWERED: `${standing.system} answered`,
    WAITING:
      standing.attempts === 0 ? `${standing.system} is being told` : `${standing.system} is waited for`,
    GIVEN_UP: `${standing.system} was given up on`,
  }[standing.state];
  return (
    <Step tone={standing.state === 'ANSWERED' ? 'good' : standing.state === 'WAITING' ? 'lamp' : 'bad'}>
      <strong>{title}</strong>
      <span>
        {standing.answer === undefined
          ? `It is told that this should be ${standing.open ? 'open' : 'closed'}.`
          : `${standing.answer}${when}, ${tries}.`}
        {standing.state === 'WAITING' &&
          standing.nextTryAt !== undefined &&
          new Date(standing.nextTryAt).getTime() > now &&
          ` Next try ${fromNow(standing.nextTryAt, now)}.`}
        {tense !== 'now' && ' This is how it stands now.'}{' '}
        {tense === 'now' && may.act && (
          <TextButton
            disabled={again.isPending}
            onClick={() => again.mutate({ params: { path: { id: standing.id } } })}
          >
            {again.isPending ? 'Sending …' : 'Send again'}
          </TextButton>
        )}
      </span>
      {again.error !== null && <Fault error={again.error} />}
    </Step>
  );
}
