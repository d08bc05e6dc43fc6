import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import type { ReactElement } from 'react';
import { vi } from 'vitest';
import type { Schemas } from '../api/client';
import { SessionContext } from '../session/session';

/** What was asked of the server. */
export interface Asked {
  method: string;
  path: string;
  body: unknown;
}

type Answer = (asked: Asked) => Response | Promise<Response>;

/** A server for tests: says what it is told to for a method and path, and keeps what it was asked. */
export function stubServer(answers: Record<string, Answer>): Asked[] {
  const asked: Asked[] = [];
  vi.stubGlobal('fetch', async (request: Request) => {
    const { pathname } = new URL(request.url);
    const text = request.method === 'GET' ? '' : await request.clone().text();
    const one: Asked = {
      method: request.method,
      path: pathname,
      body: text === '' ? undefined : (JSON.parse(text) as unknown),
    };
    asked.push(one);
    const answer = answers[`${request.method} ${pathname}`];
    return answer === undefined ? problem(404, 'Not here', `${request.method} ${pathname}`) : answer(one);
  });
  return asked;
}

/** As RFC 9457 has it. */
export function problem(status: number, title: string, detail: string): Response {
  return new Response(JSON.stringify({ status, title, detail }), {
    status,
    headers: { 'content-type': 'application/problem+json' },
  });
}

export function bodiesOf(asked: Asked[], path: string): unknown[] {
  return asked.filter((one) => one.path === path && one.method !== 'GET').map((one) => one.body);
}

const SESSION: Schemas['Session'] = {
  school: 'Hollow Oak Bee School',
  address: 'http://127.0.0.1:8410',
  zone: 'Europe/Dublin',
  now: '2026-11-24T12:00:00Z',
  name: 'Signe Holm',
  email: 'signe@hollowoak.example',
  role: 'OWNER',
  secondFactor: false,
};

/** Shows something as the signed-in see it. */
export function renderFor(shown: ReactElement, role: Schemas['Member']['role'] = 'OWNER') {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return render(
    <QueryClientProvider client={queries}>
      <SessionContext value={{ ...SESSION, role }}>{shown}</SessionContext>
    </QueryClientProvider>,
  );
}
