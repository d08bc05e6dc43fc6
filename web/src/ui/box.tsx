import type { ComponentProps, ElementType } from 'react';

type Tag =
  'a' | 'article' | 'button' | 'div' | 'dl' | 'fieldset' | 'form' | 'input' | 'label' | 'li' | 'nav' | 'ol';
type MoreTags = 'p' | 'pre' | 'section' | 'select' | 'span' | 'table' | 'textarea' | 'ul';

/** Two lists of classes as one; the second may be missing. */
export function joined(look: string, more: string | undefined): string {
  return more === undefined || more === '' ? look : `${look} ${more}`;
}

/** A part that is nothing but an element with a look; `as` gives it another element. */
export function box<Usual extends Tag | MoreTags>(usual: Usual, look: string, part?: string) {
  return function Box<Element extends Tag | MoreTags = Usual>({
    as,
    className,
    ...rest
  }: { as?: Element } & ComponentProps<Element>) {
    const Chosen = (as ?? usual) as ElementType;
    return <Chosen className={joined(look, className)} data-part={part} {...rest} />;
  };
}
