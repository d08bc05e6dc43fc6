import type { Schemas } from '../api/client';
import { idIn } from './paths';
import { isSort, SORT_WORDS } from './things';

/** What stands over the columns of one sort; courses and their sections stand under their categories. */
export function groupOf({ sort, category }: Schemas['TargetColumn']): string {
  if (sort !== 'course' && isSort(sort)) return SORT_WORDS[sort].many;
  return category === '' ? SORT_WORDS.course.many : category;
}

/** Where on the grid a thing stands; nothing for what has neither row nor column to begin at. */
export function placeOf(subject: string): { product: string } | { course: string } | undefined {
  if (subject.startsWith('product/')) return { product: idIn(subject) };
  return subject.startsWith('course/') ? { course: idIn(subject) } : undefined;
}

/** What is met at a door is said on its thing's page. */
export function isAboutDoor(subject: string): boolean {
  return subject.startsWith('door/');
}

export function isAboutFollowup(subject: string): boolean {
  return subject.startsWith('followup/');
}
