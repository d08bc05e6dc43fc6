import { CalendarDays } from 'lucide-react';
import { lazy, Suspense, useState, type ReactNode } from 'react';
import { Button as PressButton, Dialog, DialogTrigger, Popover } from 'react-aria-components';
import { useSession } from '../session/session';
import { dayOf, readDay, shownDay } from './dates';
import { dayOfWords } from './dayWords';
import { FieldFrame } from './Field';
import { Input } from './inputs';
import { POPPED } from './Menu';

const Calendar = lazy(() => import('./Calendar').then(({ Calendar }) => ({ default: Calendar })));

interface Props {
  label: string;
  /** As "2026-11-25"; empty = none. */
  value: string;
  onChange: (day: string) => void;
  hint?: ReactNode;
  fault?: string | undefined;
  /** Beside its label instead of below it, for what narrows a list. */
  inline?: boolean;
  /** The label is read out, not shown: what stands around it says it. */
  bare?: boolean;
}

/** A day to write down ("28 Nov 2026", "28.11.", "tomorrow") or to pick, or none. */
export function DayField({ label, value, onChange, hint, fault, inline = false, bare = false }: Props) {
  const { zone } = useSession();
  const today = dayOf(new Date(), zone);
  const day = readDay(value);
  const [typed, setTyped] = useState<string>();
  const shown = typed ?? (day === undefined ? '' : shownDay(day));
  const unread = typed !== undefined && typed.trim() !== '' && dayOfWords(typed, today) === undefined;
  const type = (text: string) => {
    setTyped(text);
    const read = dayOfWords(text, today);
    if (text.trim() === '') onChange('');
    else if (read !== undefined) onChange(read.toString());
  };
  const field = (tied: object) => (
    <div className="relative w-37">
      <Input
        className="w-full pr-8"
        placeholder={shownDay(today)}
        autoComplete="off"
        value={shown}
        onChange={(event) => type(event.target.value)}
        onBlur={() => {
          if (!unread) setTyped(undefined);
        }}
        {...tied}
        {...((unread || fault !== undefined) && { 'aria-invalid': true })}
      />
      <DialogTrigger>
        <PressButton
          className="absolute inset-y-0 right-1 my-auto h-fit cursor-pointer rounded-field p-1 text-soft hover:bg-base-content/10"
          aria-label="Pick a day"
        >
          <CalendarDays size={17} aria-hidden />
        </PressButton>
        <Popover placement="bottom end" className={POPPED}>
          <Dialog aria-label={label} className="outline-none">
            {({ close }) => (
              <Suspense fallback={<p className="p-3 text-soft">A moment …</p>}>
                <Calendar
                  label={label}
                  value={day}
                  onChoose={(next) => {
                    setTyped(undefined);
                    onChange(next.toString());
                    close();
                  }}
                />
              </Suspense>
            )}
          </Dialog>
        </Popover>
      </DialogTrigger>
    </div>
  );
  if (bare) return field({ 'aria-label': label });
  if (inline) {
    return (
      <span className="inline-flex items-center gap-2">
        <span aria-hidden="true">{label}</span>
        {field({ 'aria-label': label })}
      </span>
    );
  }
  return (
    <FieldFrame
      label={label}
      hint={hint}
      fault={unread ? 'This is no day; write it as “28 Nov 2026”.' : fault}
    >
      {field}
    </FieldFrame>
  );
}
