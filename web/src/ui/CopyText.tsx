import { useState } from 'react';
import { Button } from './Button';

/** Something to paste elsewhere, letter by letter. */
export function CopyText({ text, label, part }: { text: string; label?: string; part?: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <span className="flex flex-wrap items-center gap-2">
      {label !== undefined && <span>{label}:</span>}
      <code className="rounded-field bg-figure px-2 py-1 wrap-anywhere" data-part={part}>
        {text}
      </code>
      <Button
        small
        aria-label={label === undefined ? undefined : `Copy: ${label}`}
        onClick={() => {
          void navigator.clipboard.writeText(text).then(() => setCopied(true));
        }}
      >
        {copied ? 'Copied' : 'Copy'}
      </Button>
    </span>
  );
}
