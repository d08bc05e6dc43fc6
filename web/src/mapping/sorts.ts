import type { Schemas } from '../api/client';

/** What stands over the columns of one sort; courses stand under their categories. */
const GROUPS: Record<string, string> = {
  group: 'Groups',
  area: 'Areas',
  download: 'Downloads',
  list: 'Lists',
  tag: 'Tags',
  level: 'Levels',
};

export function groupOf(target: Schemas['TargetColumn']): string {
  return GROUPS[target.sort] ?? (target.category === '' ? 'Courses' : target.category);
}

/** Where on the grid a thing stands; nothing for what has neither row nor column to begin at. */
export function placeOf(subject: string): { product: string } | { course: string } | undefined {
  if (subject.startsWith('product/')) return { product: idIn(subject) };
  return subject.startsWith('course/') ? { course: idIn(subject) } : undefined;
}

/** The id without its sort: "QUEEN" of "product/QUEEN". */
export function idIn(path: string): string {
  return path.slice(path.indexOf('/') + 1);
}
