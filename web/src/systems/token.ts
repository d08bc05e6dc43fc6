/** A token as it is pasted, often with what stood around it: "Bearer abc", "'abc'". */
export function bare(pasted: string): string {
  return pasted
    .trim()
    .replace(/^(authorization:\s*)?bearer\s+/i, '')
    .replace(/^(["'“”‘’`<])(.*)(["'“”‘’`>])$/s, '$2')
    .trim();
}
