import createFetchClient, { type Middleware } from 'openapi-fetch';
import createClient from 'openapi-react-query';
import { connection } from './connection';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];

export type Problem = Schemas['Problem'] & {
  /** Which fields it is about (RFC 9457 lets a problem have members of its own). */
  errors?: { field: string; problem: string }[];
};

/** Where 401 says that somebody was not let in; elsewhere it says that their session has ended. */
const SIGNING_IN = ['/api/session', '/api/session/passkey'];

function cookie(name: string): string | undefined {
  const pair = document.cookie.split('; ').find((one) => one.startsWith(`${name}=`));
  return pair === undefined ? undefined : decodeURIComponent(pair.slice(name.length + 1));
}

/** Sends the token that the server set (against forged requests), and notes whether the server answers. */
const carrier: Middleware = {
  onRequest({ request }) {
    // where people come by TLS it is the one that no other host can set
    const token = cookie('__Host-XSRF-TOKEN') ?? cookie('XSRF-TOKEN');
    if (token !== undefined && request.method !== 'GET') {
      request.headers.set('X-XSRF-TOKEN', token);
    }
    return request;
  },
  async onResponse({ request, response }) {
    connection.answered();
    if (response.status === 401 && !SIGNING_IN.includes(new URL(request.url).pathname)) {
      connection.sessionEnded();
    }
    if (response.status === 403) {
      const problem = (await response.clone().json()) as Partial<Problem>;
      if (problem.proof === true) connection.proofWanted();
    }
  },
  onError({ error }) {
    if (error instanceof TypeError) {
      connection.lost();
    }
  },
};

export const client = createFetchClient<paths>({
  baseUrl: window.location.origin,
  fetch: (request) => globalThis.fetch(request),
});
client.use(carrier);

export const api = createClient(client);

/** To be thrown. */
export function asError(problem: Problem): Error & Problem {
  return Object.assign(new Error(problem.title), problem);
}

/** What the server answers; what it refuses is thrown. */
export async function read<T>(asked: Promise<{ data?: T; error?: Problem }>): Promise<T> {
  const { data, error } = await asked;
  if (error !== undefined) throw asError(error);
  return data as T;
}

/** What went wrong, in words for people; also for an error that is no problem body. */
export function problemOf(error: unknown): Problem {
  if (typeof error === 'object' && error !== null && 'title' in error) {
    const body = error as Partial<Problem>;
    return {
      ...body,
      title: body.title ?? 'Something went wrong',
      detail: body.detail ?? 'Nothing was changed.',
      status: body.status ?? 0,
    };
  }
  return {
    title: "Yoru's server does not answer",
    detail: 'It may be back in a moment. What you typed is kept.',
    status: 0,
  };
}

/** A line of an answer that is still being computed. */
interface Line {
  done: number;
  of: number;
  consequence?: Schemas['DraftConsequence'];
}

/** What a draft would change; says meanwhile how far it is. To abort the signal ends the work on the server too. */
export async function watchConsequence(
  draft: Schemas['Draft'],
  signal: AbortSignal,
  onProgress: (done: number, of: number) => void,
): Promise<Schemas['DraftConsequence']> {
  const data = await read(
    client.POST('/api/mapping/consequence', {
      body: draft,
      headers: { accept: 'application/x-ndjson' },
      parseAs: 'stream',
      signal,
    }),
  );
  const lines = (data as unknown as ReadableStream<Uint8Array<ArrayBuffer>>)
    .pipeThrough(new TextDecoderStream())
    .getReader();
  let text = '';
  for (;;) {
    const { done, value } = await lines.read();
    text += value ?? '';
    const whole = text.split('\n');
    text = whole.pop() ?? '';
    for (const json of whole) {
      const line = JSON.parse(json) as Line;
      if (line.consequence !== undefined) return line.consequence;
      onProgress(line.done, line.of);
    }
    if (done) throw new TypeError('The answer broke off.');
  }
}
