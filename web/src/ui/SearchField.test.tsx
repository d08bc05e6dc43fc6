// @vitest-environment jsdom
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { expect, it, vi } from 'vitest';
import { SearchField } from './SearchField';

function Page({ onSearch }: { onSearch: (words: string) => void }) {
  const [words, setWords] = useState('');
  const change = (next: string) => {
    onSearch(next);
    setWords(next);
  };
  return (
    <>
      <SearchField label="Find" placeholder="" value={words} onChange={change} />
      <button onClick={() => setWords('')}>All</button>
    </>
  );
}

it('searches once typing has paused, and follows what is changed elsewhere', async () => {
  const onSearch = vi.fn();
  render(<Page onSearch={onSearch} />);
  const field = screen.getByLabelText('Find');
  await userEvent.type(field, 'ines');
  await vi.waitFor(() => expect(onSearch).toHaveBeenLastCalledWith('ines'));
  expect(onSearch.mock.calls.length).toBeLessThanOrEqual(4);
  const before = onSearch.mock.calls.length;

  await userEvent.click(screen.getByRole('button', { name: 'All' }));
  expect(field).toHaveValue('');
  await userEvent.type(field, 'b');
  await vi.waitFor(() => expect(onSearch).toHaveBeenLastCalledWith('b'));
  expect(onSearch).toHaveBeenCalledTimes(before + 1);
});

it('has searched before a click elsewhere counts', async () => {
  const happened: string[] = [];
  render(
    <>
      <SearchField label="Find" placeholder="" value="" onChange={(words) => happened.push(words)} />
      <button onClick={() => happened.push('clicked')}>Somebody</button>
    </>,
  );
  await userEvent.type(screen.getByLabelText('Find'), 'i');
  await userEvent.click(screen.getByRole('button', { name: 'Somebody' }));
  expect(happened).toEqual(['i', 'clicked']);
});
