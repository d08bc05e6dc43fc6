import type { ReactNode } from 'react';
import type { Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { GROUND, Sheet, Table, TextButton, type Tone } from '../ui/kit';
import { dayWords, firstOf } from './standings';

type Report = Schemas['RehearsalReport'];
type Passage = Report['steps'][number]['passages'][number];
type For = Passage['people'][number];

const MOVES: Record<For['moved'][number]['move'], { words: string; tone: Tone }> = {
  OPENED: { words: '+', tone: 'good' },
  CHANGED: { words: 'now', tone: 'warn' },
  ENDED: { words: '−', tone: 'bad' },
};

function Said({ tone, title, children }: { tone: Tone; title?: string; children: string }) {
  return (
    <li
      title={title}
      className={`rounded-field px-2 py-1 text-[0.87rem] leading-snug font-medium wrap-anywhere ${GROUND[tone]}`}
    >
      {children}
    </li>
  );
}

/** What happens in each system, in order: days down, systems across. */
export function Passages({
  report,
  chosen,
  onLetter,
  onSent,
}: {
  report: Report;
  chosen: number;
  onLetter: (letter: Letter) => void;
  onSent: (sent: Sent) => void;
}) {
  const { zone } = useSession();
  const first = firstOf(report);
  const rows = report.steps.flatMap((step, position) =>
    step.passages.map((passage) => ({ passage, position, byItself: passage.at !== step.at })),
  );
  const systems = new Map(
    rows.flatMap(({ passage }) =>
      passage.people.flatMap((one) => one.told.map(({ system, title }): [string, string] => [system, title])),
    ),
  );
  const letters = rows.some(({ passage }) => passage.people.some((one) => one.letters.length > 0));
  if (rows.length === 0) return null;
  return (
    <Sheet aria-label="What happens in each system">
      <Table className="[&_td]:align-top [&_tbody_th]:align-top">
        <thead>
          <tr>
            <th scope="col">When</th>
            <th scope="col">Yoru</th>
            {[...systems].map(([id, title]) => (
              <th key={id} scope="col">
                {title}
              </th>
            ))}
            {letters && <th scope="col">Letters</th>}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ passage, position, byItself }, at) => (
            <tr
              key={at}
              data-chosen={position === chosen || undefined}
              className="align-top data-chosen:[&>th]:shadow-[inset_3px_0_var(--lamp)]"
            >
              <th
                scope="row"
                className="font-code text-2xs whitespace-nowrap"
                title={shownTime(passage.at, zone)}
              >
                {dayWords(passage.at, first, zone)}
                {byItself && <span className="block font-text font-normal text-soft">by itself</span>}
              </th>
              <td>
                <Cell passage={passage} show={(one) => <OfYoru one={one} />} />
              </td>
              {[...systems].map(([system, title]) => (
                <td key={system}>
                  <Cell
                    passage={passage}
                    show={(one) => (
                      <OfSystem
                        one={one}
                        system={system}
                        onSent={(messages) => onSent({ to: title, about: one.name, messages })}
                      />
                    )}
                  />
                </td>
              ))}
              {letters && (
                <td>
                  <Cell
                    passage={passage}
                    show={(one) =>
                      one.letters.map((letter) => (
                        <li key={letter.subject}>
                          <button
                            type="button"
                            className={`w-full cursor-pointer rounded-field px-2 py-1 text-left text-[0.87rem] leading-snug font-medium underline ${GROUND.soft}`}
                            onClick={() => onLetter(letter)}
                          >
                            {letter.subject}
                          </button>
                        </li>
                      ))
                    }
                  />
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </Table>
    </Sheet>
  );
}

export type Letter = For['letters'][number];

/** What one system is told of somebody at one moment, as it is sent. */
export interface Sent {
  to: string;
  about: string;
  messages: For['sent'];
}

function Cell({ passage, show }: { passage: Passage; show: (one: For) => ReactNode }) {
  const several = passage.people.length > 1;
  return (
    <>
      {passage.people.map((one) => (
        <ul key={one.person} className="grid min-w-36 gap-1 [&+ul]:mt-2" aria-label={one.name}>
          {several && <li className="text-[0.8rem] text-soft">{one.name}</li>}
          {show(one)}
        </ul>
      ))}
    </>
  );
}

function OfSystem({
  one,
  system,
  onSent,
}: {
  one: For;
  system: string;
  onSent: (messages: For['sent']) => void;
}) {
  const messages = one.sent.filter((message) => message.system === system);
  return (
    <>
      {one.told
        .filter((told) => told.system === system)
        .flatMap(({ says }) => says)
        .map((said) => (
          <Said key={said} tone={said.startsWith('close') ? 'bad' : 'good'}>
            {said}
          </Said>
        ))}
      {messages.length > 0 && (
        <li>
          <TextButton className="text-[0.8rem]" onClick={() => onSent(messages)}>
            as sent
          </TextButton>
        </li>
      )}
    </>
  );
}

function OfYoru({ one }: { one: For }) {
  return (
    <>
      {one.moved.map((moved) => (
        <Said key={`${moved.target} ${moved.move}`} tone={MOVES[moved.move].tone} title={moved.why}>
          {`${MOVES[moved.move].words} ${moved.title}${moved.howLong === '' ? '' : ` ${moved.howLong}`}`}
        </Said>
      ))}
      {one.followups.map((done) => (
        <Said key={`${done.followup} ${done.does}`} tone="soft" title={done.title}>
          {done.does}
        </Said>
      ))}
    </>
  );
}
