// @vitest-environment jsdom
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { bodiesOf, problem, renderFor, stubServer } from '../ui/stubbed';
import { OwnAccount } from './OwnAccount';

const NO_PASSKEYS = { 'GET /api/session/passkeys': () => Response.json([]) };

async function change() {
  await userEvent.type(screen.getByLabelText('Your password until now'), 'an old hive tool');
  await userEvent.type(screen.getByLabelText('Your new password'), 'a new hive tool');
  await userEvent.click(screen.getByRole('button', { name: 'Change it' }));
}

describe("one's own password", () => {
  it('is changed, and forgotten by the form', async () => {
    const asked = stubServer({ ...NO_PASSKEYS, 'PUT /api/session/password': () => Response.json({}) });
    renderFor(<OwnAccount />, 'READER');
    await change();
    expect(await screen.findByRole('status')).toHaveTextContent('Your password is changed.');
    expect(screen.getByLabelText('Your new password')).toHaveValue('');
    expect(bodiesOf(asked, '/api/session/password')).toEqual([
      { present: 'an old hive tool', next: 'a new hive tool' },
    ]);
  });

  it('stays as it is where the present one is wrong', async () => {
    stubServer({
      ...NO_PASSKEYS,
      'PUT /api/session/password': () =>
        problem(422, 'The password was not changed', 'Your password until now is another one.'),
    });
    renderFor(<OwnAccount />);
    await change();
    expect(await screen.findByRole('alert')).toHaveTextContent('is another one');
    expect(screen.getByLabelText('Your new password')).toHaveValue('a new hive tool');
    expect(screen.queryByRole('status')).not.toBeInTheDocument();
  });
});
