// @vitest-environment jsdom
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, it, vi } from 'vitest';
import { renderFor, stubServer } from '../ui/stubbed';
import { PersonFinder } from './PersonFinder';

it('takes nobody by Enter who was found for fewer letters and does not fit', async () => {
  const ida = { id: 1, key: 'ida@post.example', name: 'Ida', orders: 2 };
  let later: (() => void) | undefined;
  let asks = 0;
  stubServer({
    'GET /api/people': () => {
      asks++;
      const answer = (people: object[]) => Response.json({ total: people.length, pageSize: 50, people });
      // of what was asked last the answer is slow
      return asks === 1
        ? answer([ida])
        : new Promise<Response>((resolve) => (later = () => resolve(answer([]))));
    },
  });
  const onChoose = vi.fn();
  renderFor(<PersonFinder label="For whom" onChoose={onChoose} />);
  await userEvent.type(screen.getByRole('combobox'), 'i');
  expect(await screen.findByRole('option', { name: /Ida/ })).toBeInTheDocument();
  await userEvent.type(screen.getByRole('combobox'), 'nga@post.example{Enter}');
  expect(onChoose).not.toHaveBeenCalled();
  later?.();
  expect(await screen.findByRole('option', { name: /somebody new/ })).toBeInTheDocument();
  await userEvent.keyboard('{Enter}');
  expect(onChoose).toHaveBeenCalledWith({ key: 'inga@post.example', name: '', known: false });
});
