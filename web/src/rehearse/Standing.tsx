import { useMemo } from 'react';
import type { Schemas } from '../api/client';
import { useSession } from '../session/session';
import { dayOf, shownDay, shownTime } from '../ui/dates';
import { Acts, Button, Margin } from '../ui/kit';
import { MarkedWords } from '../ui/MarkedWords';
import { Days } from './Days';
import type { Expected } from './model';
import { dayNumber, dayWords, endOf, firstOf, standingsOf } from './standings';

type Report = Schemas['RehearsalReport'];

/** How everybody stands after the step chosen, and what each system is to hold then. */
export function Standing({
  report,
  at,
  day,
  onDay,
  onKeepAsExpected,
}: {
  report: Report | undefined;
  at: number;
  /** The day of the story looked at; none = the step chosen. */
  day: number | undefined;
  /** With the step that came last by then. */
  onDay: (day: number, position: number) => void;
  onKeepAsExpected: (expected: Expected[]) => void;
}) {
  const { zone } = useSession();
  const step = report?.steps[at];
  const all = useMemo(() => (report === undefined ? [] : standingsOf(report)), [report]);
  const first = report === undefined ? '' : firstOf(report);
  const ended = day === undefined ? undefined : endOf(day, all, first, zone).standing;
  const now = ended ?? all.find((one) => !one.byItself && one.position === at);
  if (step === undefined || now === undefined) {
    return (
      <Margin label="How it stands">
        <h2>After this step</h2>
        <p className="text-soft">Here you see what everybody has and what each system holds.</p>
      </Margin>
    );
  }
  const people = now.people.filter((one) => one.joinedInto === undefined);
  return (
    <Margin label="How it stands">
      <section className="grid gap-4">
        <h2 className="m-0">
          {day === undefined
            ? `After ${dayWords(now.at, first, zone).toLowerCase()}`
            : `When day ${day} ends`}{' '}
          <span className="text-[0.9rem] font-normal text-soft">
            {day === undefined ? shownTime(now.at, zone) : shownDay(dayOf(first, zone).add({ days: day }))}
          </span>
        </h2>
        <Days all={all} first={first} at={day ?? dayNumber(now.at, first, zone)} onDay={onDay} />
        {!now.byItself && step.meets.length > 0 && (
          <div className="grid gap-1.5 border-b border-line pb-3">
            <strong>What is met</strong>
            <ul className="grid gap-1.5">
              {step.meets.map((met) => (
                <li key={met} className="wrap-anywhere">
                  <MarkedWords>{met}</MarkedWords>
                </li>
              ))}
            </ul>
          </div>
        )}
        {now.people.map((one) => (
          <div key={one.person} className="grid gap-1.5 border-b border-line pb-3">
            <strong>{one.name}</strong>
            {one.joinedInto !== undefined ? (
              <span className="text-soft">
                is {now.people.find((other) => other.person === one.joinedInto)?.name} by now
              </span>
            ) : one.open.length === 0 ? (
              <span className="text-soft">nothing is open</span>
            ) : (
              <ul className="grid gap-1.5">
                {one.open.map((open) => (
                  <li key={open.target} className="flex flex-col">
                    <span>
                      {open.title} <span className="text-soft">{open.howLong}</span>
                    </span>
                    <span className="text-[0.87rem] text-soft">{open.why}</span>
                  </li>
                ))}
              </ul>
            )}
            {one.held.length > 0 && (
              <details>
                <summary className="text-[0.92rem]">What each system holds</summary>
                <ul className="mt-1.5 grid gap-1.5">
                  {one.held.map((held) => (
                    <li key={held.system}>
                      <strong className="text-[0.92rem]">{held.title}</strong>
                      <span className="block text-[0.87rem] text-soft">{held.says.join('; ')}</span>
                    </li>
                  ))}
                </ul>
              </details>
            )}
          </div>
        ))}
        {now.byItself ? (
          <p className="text-[0.9rem] text-soft">
            This came by itself, between two steps. To have it so at every later publish, add a step on that
            day.
          </p>
        ) : (
          <>
            <Acts>
              <Button
                onClick={() =>
                  onKeepAsExpected(
                    people.map((one) => ({
                      ...(one.person !== now.people[0]?.person && { who: one.person }),
                      exactly: one.open
                        .map(({ target }) => target)
                        .filter((target) => !target.startsWith('section/')),
                    })),
                  )
                }
              >
                Keep as expected
              </Button>
            </Acts>
            <p className="text-[0.9rem] text-soft">
              Then it should be so after this step at every later publish: this open, and nothing else.
            </p>
          </>
        )}
      </section>
    </Margin>
  );
}
