import type { CalendarDate } from '@internationalized/date';

function isLine(element: HTMLElement): boolean {
  return element instanceof HTMLInputElement && !['checkbox', 'radio', 'button'].includes(element.type);
}

/** Whether what is pressed is being written somewhere. */
export function isTyping(event: Event): boolean {
  return (
    event.target instanceof HTMLElement &&
    (event.target.isContentEditable ||
      ['TEXTAREA', 'SELECT'].includes(event.target.tagName) ||
      isLine(event.target))
  );
}

/**
 * Where a key moves the lamp to.
 *
 * @param onRuler whether the ruler itself has the focus, so that the arrows are its own
 */
export function keyMove(
  key: string,
  day: CalendarDate,
  today: CalendarDate,
  onRuler: boolean,
): CalendarDate | undefined {
  switch (key) {
    case '[':
      return day.subtract({ days: 1 });
    case ']':
      return day.add({ days: 1 });
    case '{':
      return day.subtract({ months: 1 });
    case '}':
      return day.add({ months: 1 });
    case '.':
      return today;
  }
  if (!onRuler) return undefined;
  switch (key) {
    case 'ArrowLeft':
      return day.subtract({ days: 1 });
    case 'ArrowRight':
      return day.add({ days: 1 });
    case 'PageUp':
      return day.add({ months: 1 });
    case 'PageDown':
      return day.subtract({ months: 1 });
    case 'Home':
      return today;
  }
  return undefined;
}
