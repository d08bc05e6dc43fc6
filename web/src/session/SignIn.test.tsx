// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { problem } from '../ui/stubbed';
import { SignIn } from './SignIn';

const SCHOOL = {
  school: 'Hollow Oak Bee School',
  address: 'http://127.0.0.1:8410',
  zone: 'Europe/Dublin',
  now: '2026-11-24T12:00:00Z',
  secondFactor: false,
};

function shown(onDone = vi.fn()) {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <SignIn session={SCHOOL} onDone={onDone} />
    </QueryClientProvider>,
  );
  return onDone;
}

async function signIn() {
  await userEvent.type(screen.getByLabelText('E-mail address'), 'signe@hollowoak.example');
  await userEvent.type(screen.getByLabelText('Password'), 'a hive of words');
  await userEvent.click(screen.getByRole('button', { name: 'Sign in' }));
}

describe('signing in', () => {
  const fetched = vi.fn<(request: Request) => Promise<Response>>();
  beforeEach(() => {
    fetched.mockReset();
    vi.stubGlobal('fetch', fetched);
    document.cookie = 'XSRF-TOKEN=a%20token';
  });

  it('sends the token that no other host can have set, where there is one', async () => {
    vi.spyOn(document, 'cookie', 'get').mockReturnValue('XSRF-TOKEN=planted; __Host-XSRF-TOKEN=its%20own');
    fetched.mockResolvedValue(Response.json({ ...SCHOOL, name: 'Signe Holm' }));
    const onDone = shown();
    await signIn();
    await vi.waitFor(() => expect(onDone).toHaveBeenCalledOnce());
    expect(fetched.mock.calls[0]?.[0].headers.get('X-XSRF-TOKEN')).toBe('its own');
  });

  it('sends what was typed with the token, and goes on', async () => {
    fetched.mockResolvedValue(Response.json({ ...SCHOOL, name: 'Signe Holm' }));
    const onDone = shown();
    await signIn();
    await vi.waitFor(() => expect(onDone).toHaveBeenCalledOnce());
    const request = fetched.mock.calls[0]?.[0];
    expect(request?.headers.get('X-XSRF-TOKEN')).toBe('a token');
    expect(await request?.json()).toEqual({
      email: 'signe@hollowoak.example',
      password: 'a hive of words',
      code: '',
    });
  });

  it("says the server's reason and keeps what was typed", async () => {
    fetched.mockResolvedValue(
      problem(429, 'Too many tries', 'Signing in failed too often. Try again in 20 seconds.'),
    );
    const onDone = shown();
    await signIn();
    expect(await screen.findByRole('alert')).toHaveTextContent('in 20 seconds');
    expect(screen.getByLabelText('Password')).toHaveValue('a hive of words');
    expect(onDone).not.toHaveBeenCalled();
  });

  it('asks for the code of the second factor only once the password was right', async () => {
    fetched.mockResolvedValueOnce(
      new Response(
        JSON.stringify({
          status: 401,
          title: 'The second factor is needed',
          detail: 'x',
          secondFactor: true,
        }),
        { status: 401, headers: { 'content-type': 'application/problem+json' } },
      ),
    );
    const onDone = shown();
    expect(screen.queryByLabelText('Code of your authenticator')).not.toBeInTheDocument();
    await signIn();
    await userEvent.type(await screen.findByLabelText('Code of your authenticator'), '123456');
    expect(screen.queryByRole('alert')).not.toBeInTheDocument();
    fetched.mockResolvedValue(Response.json({ ...SCHOOL, name: 'Signe Holm' }));
    await userEvent.click(screen.getByRole('button', { name: 'Sign in' }));
    await vi.waitFor(() => expect(onDone).toHaveBeenCalledOnce());
    expect(await fetched.mock.calls[1]?.[0].json()).toMatchObject({ code: '123456' });
  });

  it('sends a letter only when that is confirmed', async () => {
    fetched.mockResolvedValue(new Response(null, { status: 204 }));
    shown();
    await userEvent.click(screen.getByRole('button', { name: 'I have forgotten my password' }));
    await userEvent.type(screen.getByLabelText('E-mail address'), 'signe@hollowoak.example{Enter}');
    expect(fetched).not.toHaveBeenCalled();
    await userEvent.keyboard('{Control>}{Enter}{/Control}');
    expect(await screen.findByRole('status')).toHaveTextContent('a letter is on its way');
    expect(fetched).toHaveBeenCalledOnce();
  });

  it('says plainly that the server does not answer', async () => {
    fetched.mockRejectedValue(new TypeError('Failed to fetch'));
    shown();
    await signIn();
    expect(await screen.findByRole('alert')).toHaveTextContent('does not answer');
  });

  it('shows the practice sign-in only where there is one', () => {
    shown();
    expect(screen.queryByText(/practice school/)).not.toBeInTheDocument();
  });
});
