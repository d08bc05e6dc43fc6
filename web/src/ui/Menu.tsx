import type { ReactNode } from 'react';
import {
  Button as PressButton,
  Menu as AriaMenu,
  MenuItem,
  MenuTrigger,
  Popover,
  type Selection,
} from 'react-aria-components';
import { buttonLook } from './Button';

export const POPPED =
  'rounded-box border border-line bg-base-100 p-1 text-base-content shadow-lg outline-none entering:opacity-0';

const ITEM =
  'cursor-pointer rounded-field px-3 py-1.5 outline-none data-focused:bg-chosen data-disabled:cursor-default data-disabled:text-soft';

export interface MenuAct {
  id: string;
  words: ReactNode;
  onAct: () => void;
  disabled?: boolean;
}

interface Props {
  /** What the button says; with a picture, its `name` says it to those who do not see. */
  children: ReactNode;
  name?: string;
  className?: string;
  acts: MenuAct[];
}

/** A button that opens a list of acts. */
export function Menu({ children, name, className, acts }: Props) {
  return (
    <MenuTrigger>
      <PressButton
        className={className ?? buttonLook({ small: true })}
        {...(name !== undefined && { 'aria-label': name })}
      >
        {children}
      </PressButton>
      <Popover placement="bottom end" className={`${POPPED} max-h-[80dvh] min-w-44 overflow-auto`}>
        <AriaMenu
          {...(name !== undefined && { 'aria-label': name })}
          className="outline-none"
          onAction={(key) => acts.find((act) => act.id === key)?.onAct()}
        >
          {acts.map((act) => (
            <MenuItem key={act.id} id={act.id} isDisabled={act.disabled === true} className={ITEM}>
              {act.words}
            </MenuItem>
          ))}
        </AriaMenu>
      </Popover>
    </MenuTrigger>
  );
}

interface TicksProps {
  children: ReactNode;
  name: string;
  options: { id: string; words: string }[];
  ticked: string[];
  onChange: (ticked: string[]) => void;
}

/** A button that opens a list of which any number can be ticked. */
export function TickMenu({ children, name, options, ticked, onChange }: TicksProps) {
  const change = (keys: Selection) =>
    onChange(options.map(({ id }) => id).filter((id) => keys === 'all' || keys.has(id)));
  return (
    <MenuTrigger>
      <PressButton className={buttonLook({ small: true })}>{children}</PressButton>
      <Popover placement="bottom end" className={`${POPPED} min-w-44`}>
        <AriaMenu
          aria-label={name}
          className="outline-none"
          selectionMode="multiple"
          selectedKeys={ticked}
          onSelectionChange={change}
        >
          {options.map((option) => (
            <MenuItem
              key={option.id}
              id={option.id}
              textValue={option.words}
              className={`${ITEM} flex items-center gap-2`}
            >
              {({ isSelected }) => (
                <>
                  <span className="w-4 text-center" aria-hidden="true">
                    {isSelected ? '✓' : ''}
                  </span>
                  {option.words}
                </>
              )}
            </MenuItem>
          ))}
        </AriaMenu>
      </Popover>
    </MenuTrigger>
  );
}
