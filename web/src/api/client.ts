import createFetchClient, { type Middleware } from 'openapi-fetch';
import createClient from 'openapi-react-query';
import { connection } from './connection';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];

export type Problem = Schemas['Problem'];

/** Sends the token that the server set (against forged requests), and notes whether the server answers. */
const carrier: Middleware = {
  onRequest({ request }) {
    const token = /(?:^|; )XSRF-TOKEN=([^;]*)/.exec(document.cookie)?.[1];
    if (token !== undefined && request.method !== 'GET') {
      request.headers.set('X-XSRF-TOKEN', decodeURIComponent(token));
    }
    return request;
  },
  onResponse({ request, response }) {
    connection.answered();
    if (response.status === 401 && new URL(request.url).pathname !== '/api/session') {
      connection.sessionEnded();
    }
  },
  onError({ error }) {
    if (error instanceof TypeError) {
      connection.lost();
    }
  },
};

const client = createFetchClient<paths>({
  baseUrl: window.location.origin,
  fetch: (request) => globalThis.fetch(request),
});
client.use(carrier);

export const api = createClient(client);

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
