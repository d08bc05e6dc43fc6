import { Button as PressButton, Dialog, DialogTrigger, Popover } from 'react-aria-components';
import { shownDay } from '../ui/dates';
import { Button } from '../ui/Button';
import { Calendar } from '../ui/Calendar';
import { POPPED } from '../ui/Menu';
import { useAsOf } from './asOf';

/** The lamp where there is no room for the ruler. */
export function DayButton() {
  const asOf = useAsOf();
  return (
    <DialogTrigger>
      <PressButton
        className={`cursor-pointer rounded-full px-3 py-0.5 text-[0.85rem] font-bold ${
          asOf.tense === 'now' ? 'bg-lamp text-[#1b1b32]' : 'bg-night text-lamp outline-2 outline-lamp'
        }`}
        aria-label={`As-of date: ${shownDay(asOf.day)}`}
      >
        {asOf.tense === 'now' ? 'Now' : shownDay(asOf.day)}
      </PressButton>
      <Popover placement="bottom end" className={POPPED}>
        <Dialog aria-label="As-of date" className="outline-none">
          {({ close }) => (
            <>
              <Calendar
                label="As-of date"
                value={asOf.day}
                onChoose={(day) => {
                  asOf.move(day);
                  close();
                }}
              />
              {asOf.tense !== 'now' && (
                <Button
                  className="m-2"
                  small
                  onClick={() => {
                    asOf.move(asOf.today);
                    close();
                  }}
                >
                  Back to now
                </Button>
              )}
            </>
          )}
        </Dialog>
      </Popover>
    </DialogTrigger>
  );
}
