/** Gives the browser a text as a file to keep. */
export function saveFile(name: string, text: string, type = 'text/csv') {
  const address = URL.createObjectURL(new Blob([text], { type: `${type};charset=utf-8` }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  URL.revokeObjectURL(address);
}

/** A file as the body of a request, sent as it is. */
export function fileBody(file: File, type: string) {
  return {
    body: file as unknown as string,
    bodySerializer: (body: unknown) => body as BodyInit,
    headers: { 'content-type': type },
  };
}
