import { use, useEffect, type ReactNode } from 'react';
import { ComboBox, ComboBoxStateContext, Input, ListBox, ListBoxItem, Popover } from 'react-aria-components';
import { POPPED } from './Menu';

interface Props<T> {
  label: string;
  placeholder: string;
  words: string;
  onWords: (words: string) => void;
  found: T[];
  idOf: (one: T) => string;
  show: (one: T) => ReactNode;
  onChoose: (one: T) => void;
  /** What to say where nothing is found. */
  nothing?: ReactNode;
}

/** Type a few letters, choose one: with arrows and Enter, or the mouse. */
export function Finder<T>({
  label,
  placeholder,
  words,
  onWords,
  found,
  idOf,
  show,
  onChoose,
  nothing,
}: Props<T>) {
  const asked = words.trim() !== '';
  const items = asked ? found.map((one) => ({ id: idOf(one), one })) : [];
  return (
    <ComboBox
      aria-label={label}
      className="relative w-full"
      inputValue={words}
      onInputChange={onWords}
      value={null}
      onChange={(key) => {
        const one = found.find((each) => idOf(each) === key);
        if (one === undefined) return;
        onChoose(one);
        onWords('');
      }}
      allowsCustomValue
      items={items}
      menuTrigger="input"
    >
      <Line placeholder={placeholder} found={items.map(({ id }) => id).join(' ')} />
      <Popover className={`${POPPED} max-h-80 w-(--trigger-width) min-w-64 overflow-auto`} offset={3}>
        <ListBox<{ id: string; one: T }> className="outline-none">
          {({ id, one }) => (
            <ListBoxItem
              id={id}
              textValue={id}
              className="cursor-pointer rounded-field px-2.5 py-1.5 outline-none data-focused:bg-chosen"
            >
              {show(one)}
            </ListBoxItem>
          )}
        </ListBox>
      </Popover>
      {asked && found.length === 0 && nothing !== undefined && (
        <p role="status" className="mt-1 text-soft">
          {nothing}
        </p>
      )}
    </ComboBox>
  );
}

/** The line that is typed into. */
function Line({ placeholder, found }: { placeholder: string; found: string }) {
  const state = use(ComboBoxStateContext);
  useEffect(() => {
    // what is found may come later than what is typed
    if (found !== '' && state?.isFocused === true && !state.isOpen) state.open(null, 'input');
    // the state is another one at each change of it, also when the list is closed
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [found]);
  return (
    <Input
      className="input w-full border-edge text-[0.95rem] placeholder:text-soft placeholder:opacity-100"
      placeholder={placeholder}
      onKeyDown={(event) => {
        if (event.key !== 'Enter') return;
        event.preventDefault(); // it chooses; it never sends the form around it
        const first = state?.isOpen === true ? state.collection.getFirstKey() : null;
        if (state !== null && first !== null && state.selectionManager.focusedKey === null) {
          state.selectionManager.select(first);
          state.close();
        }
      }}
    />
  );
}
