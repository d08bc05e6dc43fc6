// @vitest-environment jsdom
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import * as z from 'zod';
import { DataTable, type Column } from './DataTable';
import { DayField } from './DayField';
import { Finder } from './Finder';
import {
  ActForm,
  Button,
  ConfirmButton,
  FaultsAtFields,
  Field,
  TextButton,
  useActFields,
  useFields,
} from './kit';
import { MarkedWords } from './MarkedWords';
import { say } from './said';
import { renderFor } from './stubbed';
import { Toasts } from './Toasts';

describe('what opens, charges, sends or publishes', () => {
  const confirmed = vi.fn();
  beforeEach(() => confirmed.mockReset());

  function Act() {
    return (
      <ActForm onConfirm={confirmed} aria-label="An act">
        <Field label="Why" />
        <ConfirmButton disabled={false}>Do it</ConfirmButton>
      </ActForm>
    );
  }

  it('is not confirmed by Enter in a field, but by Ctrl and Enter, and by its button', async () => {
    render(<Act />);
    await userEvent.type(screen.getByLabelText('Why'), 'because{Enter}');
    expect(confirmed).not.toHaveBeenCalled();
    await userEvent.keyboard('{Control>}{Enter}{/Control}');
    expect(confirmed).toHaveBeenCalledTimes(1);
    screen.getByRole('button', { name: 'Do it' }).focus();
    await userEvent.keyboard('{Enter}');
    expect(confirmed).toHaveBeenCalledTimes(2);
  });
});

describe('a form of fields', () => {
  const SHAPE = z.object({
    name: z.string().min(1, 'It needs a name.'),
    email: z.email('This is no e-mail address.'),
  });

  function Form({ send }: { send: (land: (error: unknown) => void) => void }) {
    const form = useFields(SHAPE, { name: '', email: '' });
    return (
      <form noValidate onSubmit={(event) => void form.handleSubmit(() => send(form.land))(event)}>
        <Field label="Name" {...form.field('name')} />
        <Field label="Address" {...form.field('email')} />
        <Button>Send</Button>
      </form>
    );
  }

  it('says at each field what is wrong, and sends nothing', async () => {
    const send = vi.fn();
    render(<Form send={send} />);
    await userEvent.type(screen.getByLabelText('Address'), 'nobody');
    await userEvent.click(screen.getByRole('button'));
    expect(await screen.findByText('It needs a name.')).toBeInTheDocument();
    expect(screen.getByLabelText('Address')).toHaveAccessibleDescription('This is no e-mail address.');
    expect(screen.getByLabelText('Address')).toBeInvalid();
    expect(send).not.toHaveBeenCalled();
  });

  it("puts the server's refusal at its field, and keeps what was typed", async () => {
    render(
      <Form
        send={(land) =>
          land({
            title: 'Not taken',
            errors: [{ field: 'email', problem: 'is taken already' }],
          })
        }
      />,
    );
    await userEvent.type(screen.getByLabelText('Name'), 'Wilma');
    await userEvent.type(screen.getByLabelText('Address'), 'wilma@post.example');
    await userEvent.click(screen.getByRole('button'));
    await waitFor(() =>
      expect(screen.getByLabelText('Address')).toHaveAccessibleDescription('is taken already'),
    );
    expect(screen.getByLabelText('Address')).toHaveValue('wilma@post.example');
  });
});

describe('a form of an act', () => {
  const SHAPE = z.object({ amount: z.string().regex(/^\d+$/, 'A whole number.'), day: z.string().min(1) });

  function Form() {
    const { filled, ...form } = useActFields(SHAPE, { amount: '', day: '' });
    return (
      <form>
        <Field label="Amount" {...form.field('amount')} />
        <Button type="button" onClick={() => form.picked('day').onChange('2026-11-28')}>
          Pick a day
        </Button>
        <output>{filled === undefined ? 'not filled in' : `${filled.amount} on ${filled.day}`}</output>
      </form>
    );
  }

  it('is filled as soon as nothing is wrong or missing, and says at once what is wrong', async () => {
    render(<Form />);
    await userEvent.type(screen.getByLabelText('Amount'), '12x');
    expect(await screen.findByText('A whole number.')).toBeInTheDocument();
    expect(screen.getByRole('status')).toHaveTextContent('not filled in');
    await userEvent.type(screen.getByLabelText('Amount'), '{Backspace}');
    await userEvent.click(screen.getByRole('button'));
    await waitFor(() => expect(screen.getByRole('status')).toHaveTextContent('12 on 2026-11-28'));
    expect(screen.queryByText('A whole number.')).not.toBeInTheDocument();
  });
});

it('sends a form by the button that does nothing else, and by no other', async () => {
  const sent = vi.fn((event: { preventDefault: () => void }) => event.preventDefault());
  const left = vi.fn();
  render(
    <form onSubmit={sent}>
      <Button onClick={left}>Leave it</Button>
      <TextButton onClick={left}>Another way</TextButton>
      <Button>Send</Button>
    </form>,
  );
  await userEvent.click(screen.getByRole('button', { name: 'Leave it' }));
  await userEvent.click(screen.getByRole('button', { name: 'Another way' }));
  expect(left).toHaveBeenCalledTimes(2);
  expect(sent).not.toHaveBeenCalled();
  await userEvent.click(screen.getByRole('button', { name: 'Send' }));
  expect(sent).toHaveBeenCalledOnce();
});

it('says in passing what is done, until it is closed', async () => {
  render(<Toasts />);
  say('Hive Oak: done.');
  expect(await screen.findByText('Hive Oak: done.')).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Close' }));
  await waitFor(() => expect(screen.queryByText('Hive Oak: done.')).not.toBeInTheDocument());
});

it('puts what is wrong at its field, and says apart what no field is about', () => {
  render(
    <FaultsAtFields
      problems={[
        { field: 'reason', problem: 'is missing' },
        { field: 'person', problem: 'is not known' },
      ]}
      rest={(others) => <p role="status">{others.map(({ problem }) => problem).join()}</p>}
    >
      <Field name="reason" label="Why" />
    </FaultsAtFields>,
  );
  expect(screen.getByLabelText('Why')).toHaveAccessibleDescription('is missing');
  expect(screen.getByRole('status')).toHaveTextContent(/^is not known$/);
});

describe('a finder', () => {
  const HIVES = ['Oak', 'Ash', 'Old oak'];

  function Hives({ onChoose }: { onChoose: (hive: string) => void }) {
    const [words, setWords] = useState('');
    return (
      <Finder
        label="Hive"
        placeholder="Which?"
        words={words}
        onWords={setWords}
        found={HIVES.filter((hive) => hive.toLowerCase().includes(words))}
        idOf={(hive) => hive}
        show={(hive) => hive}
        onChoose={onChoose}
        nothing="No hive is called that."
      />
    );
  }

  it('gives the first that is found at Enter, any other by the arrows, and is ready for the next', async () => {
    const chosen: string[] = [];
    render(<Hives onChoose={(hive) => chosen.push(hive)} />);
    const field = screen.getByRole('combobox', { name: 'Hive' });
    await userEvent.type(field, 'oak');
    expect(screen.getAllByRole('option').map((one) => one.textContent)).toEqual(['Oak', 'Old oak']);
    await userEvent.keyboard('{Enter}');
    expect(chosen).toEqual(['Oak']);
    expect(field).toHaveValue('');
    await userEvent.type(field, 'oak{ArrowDown}{ArrowDown}{Enter}');
    expect(chosen).toEqual(['Oak', 'Old oak']);
    await userEvent.type(field, 'elm');
    expect(screen.getByText('No hive is called that.')).toBeInTheDocument();
    await userEvent.keyboard('{Enter}');
    expect(chosen).toHaveLength(2);
  });
});

describe('a day', () => {
  function Day({ onChange }: { onChange: (day: string) => void }) {
    const [day, setDay] = useState('2026-11-28');
    return (
      <DayField
        label="Paid on"
        value={day}
        onChange={(next) => {
          setDay(next);
          onChange(next);
        }}
      />
    );
  }

  it('is shown as the school writes it, is typed as anybody does, and says when it is none', async () => {
    const changes: string[] = [];
    renderFor(<Day onChange={(day) => changes.push(day)} />);
    const field = screen.getByLabelText('Paid on');
    expect(field).toHaveValue('28 Nov 2026');
    await userEvent.clear(field);
    expect(changes).toEqual(['']);
    await userEvent.type(field, '3.1.2027');
    await userEvent.tab();
    expect(changes.at(-1)).toBe('2027-01-03');
    expect(field).toHaveValue('3 Jan 2027');
    await userEvent.clear(field);
    await userEvent.type(field, '31 Feb 2027');
    await userEvent.tab();
    expect(field).toBeInvalid();
    expect(field).toHaveValue('31 Feb 2027');
  });

  it('is picked from a calendar', async () => {
    const changes: string[] = [];
    renderFor(<Day onChange={(day) => changes.push(day)} />);
    await userEvent.click(screen.getByRole('button', { name: 'Pick a day' }));
    await userEvent.click(await screen.findByRole('button', { name: /Sunday,? 15 November 2026/ }));
    expect(changes).toEqual(['2026-11-15']);
    expect(screen.getByLabelText('Paid on')).toHaveValue('15 Nov 2026');
  });
});

describe('a table that the server sorts', () => {
  interface Hive {
    id: string;
    bees: number;
  }
  const COLUMNS: Column<Hive, 'BEES'>[] = [
    { id: 'name', title: 'Hive', always: true, show: (hive) => hive.id },
    { id: 'bees', title: 'Bees', sort: 'BEES', number: true, show: (hive) => hive.bees },
  ];
  const shown = (onSort = vi.fn()) =>
    render(
      <DataTable
        name="hives"
        label="Hives"
        columns={COLUMNS}
        rows={[
          { id: 'Oak', bees: 3 },
          { id: 'Ash', bees: 2 },
        ]}
        idOf={(hive) => hive.id}
        sort="BEES"
        onSort={onSort}
      />,
    );
  beforeEach(() => localStorage.clear());

  it('asks for an order, says which it has, and remembers which columns are left out', async () => {
    const onSort = vi.fn();
    const first = shown(onSort);
    expect(screen.getByRole('columnheader', { name: /Bees/ })).toHaveAttribute('aria-sort', 'descending');
    await userEvent.click(screen.getByRole('button', { name: /Bees/ }));
    expect(onSort).toHaveBeenCalledWith('BEES');
    await userEvent.click(screen.getByRole('button', { name: 'Columns' }));
    await userEvent.click(screen.getByRole('menuitemcheckbox', { name: 'Bees' }));
    await userEvent.keyboard('{Escape}');
    expect(screen.queryByRole('columnheader', { name: /Bees/ })).not.toBeInTheDocument();
    first.unmount();
    shown();
    expect(screen.getAllByRole('columnheader')).toHaveLength(1);
    expect(screen.getByRole('cell', { name: 'Ash' })).toBeInTheDocument();
  });

  it('is whole where the browser kept something else under its name', () => {
    localStorage.setItem('yoru.columns.hives', '{"half');
    shown();
    expect(screen.getAllByRole('columnheader')).toHaveLength(2);
  });
});

describe('words in simple Markdown', () => {
  it('are read as they will be met, with nothing in them that could be followed, fetched or run', () => {
    const { container } = render(
      <MarkedWords>
        {'“**Sign in** at [the gate](https://gate.example) ![bee](https://bee.example/b.png) <b>now</b>”'}
      </MarkedWords>,
    );
    expect(container.textContent).toBe('“Sign in at the gate bee <b>now</b>”');
    expect(container.querySelector('strong')?.textContent).toBe('Sign in');
    expect(container.querySelector('a, img, b')).toBeNull();
  });
});
