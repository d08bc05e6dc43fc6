import type { Schemas } from '../api/client';

type Target = Schemas['ShownTarget'];

/** A row of a person's time line. */
export interface Folded {
  target: Target;
  /** Sections of this course that are open just as it is. */
  inside: Target[];
  /** Whether it is a section that stands below its course, open at other times than it. */
  part: boolean;
}

/** Courses first, each with its sections: those that are open as the course is in its row, the others below it. */
export function folded(targets: Target[]): Folded[] {
  const courses = targets.filter(({ sort }) => sort === 'course');
  const ownRow = (target: Target, inside: Target[] = [], part = false): Folded => ({ target, inside, part });
  const ofCourses = courses.flatMap((course) => {
    const sections = targets.filter(({ target }) => isSectionOf(target, course.target));
    const inside = sections.filter((section) => times(section) === times(course));
    return [
      ownRow(course, inside),
      ...sections.filter((section) => !inside.includes(section)).map((section) => ownRow(section, [], true)),
    ];
  });
  const shown = new Set(ofCourses.flatMap(({ target, inside }) => [target, ...inside]));
  return [...ofCourses, ...targets.filter((target) => !shown.has(target)).map((target) => ownRow(target))];
}

function isSectionOf(section: string, course: string): boolean {
  return section.startsWith(`section/${course.slice('course/'.length)}/`);
}

function times({ windows }: Target): string {
  return windows.map(({ start, end }) => `${start}..${end ?? ''}`).join(' ');
}
