/** The sort of a thing: "product" of "product/QUEEN". */
export function sortIn(path: string): string {
  return path.slice(0, path.indexOf('/'));
}

/** The id without its sort: "QUEEN" of "product/QUEEN". */
export function idIn(path: string): string {
  return path.slice(path.indexOf('/') + 1);
}
