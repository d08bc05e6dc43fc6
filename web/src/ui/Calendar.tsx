import type { CalendarDate } from '@internationalized/date';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import {
  Button as PressButton,
  Calendar as AriaCalendar,
  CalendarCell,
  CalendarGrid,
  Heading,
  I18nProvider,
} from 'react-aria-components';

interface Props {
  label: string;
  value: CalendarDate | undefined;
  onChoose: (day: CalendarDate) => void;
}

const TURN = 'cursor-pointer rounded-field p-1.5 hover:bg-base-content/10';

/** A month of days, of which one is chosen. Weeks begin on Monday. */
export function Calendar({ label, value, onChoose }: Props) {
  return (
    <I18nProvider locale="en-IE">
      <AriaCalendar
        aria-label={label}
        defaultFocusedValue={value ?? null}
        value={value ?? null}
        onChange={(day) => onChoose(day)}
        // it is opened to be used at once
        // eslint-disable-next-line jsx-a11y/no-autofocus
        autoFocus
        className="w-68 p-2"
      >
        <header className="mb-1 flex items-center justify-between">
          <PressButton slot="previous" className={TURN}>
            <ChevronLeft size={18} aria-hidden />
          </PressButton>
          <Heading className="font-head font-[650]" />
          <PressButton slot="next" className={TURN}>
            <ChevronRight size={18} aria-hidden />
          </PressButton>
        </header>
        <CalendarGrid
          weekdayStyle="short"
          className="w-full [&_td]:p-0 [&_td]:text-center [&_th]:pb-1 [&_th]:text-[0.8rem] [&_th]:font-medium [&_th]:text-soft"
        >
          {(day) => (
            <CalendarCell
              date={day}
              className="mx-auto flex size-8.5 cursor-pointer items-center justify-center rounded-full outline-offset-1 hover:bg-chosen data-focus-visible:outline-2 data-outside-month:invisible data-selected:bg-lamp data-selected:font-bold data-selected:text-[#1b1b32]"
            />
          )}
        </CalendarGrid>
      </AriaCalendar>
    </I18nProvider>
  );
}
