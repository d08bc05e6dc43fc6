import Markdown from 'markdown-to-jsx';
import type { ReactNode } from 'react';

const OPTIONS = {
  forceInline: true,
  wrapper: 'span',
  disableParsingRawHTML: true,
  disableAutoLink: true,
  overrides: { a: { component: Read }, img: { component: Read } },
} as const;

/** Somebody's words in simple Markdown, as part of a line; a link is read here, not followed, and no picture is fetched. */
export function MarkedWords({ children }: { children: string }) {
  return <Markdown options={OPTIONS}>{children}</Markdown>;
}

function Read({ children, alt }: { children?: ReactNode; alt?: string }) {
  return <u>{children ?? alt}</u>;
}
