// @vitest-environment jsdom
import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { renderFor } from '../ui/stubbed';
import { WhatFollows, type Shown } from './WhatFollows';

type Change = Schemas['ShownChange'];
type Touched = Schemas['Touched'];

function follows(people: Touched[], more: Partial<Shown> = {}) {
  renderFor(<WhatFollows consequence={{ nothing: [], seatsGone: 0, people, ...more }} />);
}

function ada(...changes: Change[]): Touched {
  return { key: 'ada@post.example', name: 'Ada', isNew: false, changes };
}

function hive(kind: Change['kind'], more: Partial<Change> = {}): Change {
  return {
    kind,
    now: true,
    target: 'course/hive',
    title: 'First Hive',
    sort: 'course',
    renews: false,
    ...more,
  };
}

describe('what follows from an act', () => {
  it('says until when in the days of the school', () => {
    follows([ada(hive('GAINS', { end: '2027-06-30T23:30:00Z' }))]);
    expect(screen.getByText('until 1 Jul 2027')).toBeInTheDocument();
  });

  it('says how much longer, and by hours where it ends on the same day', () => {
    follows([
      ada(hive('LONGER', { now: false, end: '2027-11-26T08:00:00Z', endedBefore: '2026-11-26T07:00:00Z' })),
    ]);
    expect(screen.getByText('until 26 Nov 2027, instead of 26 Nov 2026')).toBeInTheDocument();
    follows([
      ada(hive('SHORTER', { now: false, end: '2027-11-26T07:00:00Z', endedBefore: '2027-11-26T08:30:00Z' })),
    ]);
    expect(screen.getByText(/07:00:00, instead of 26 Nov 2027, 08:30:00/)).toBeInTheDocument();
  });

  it('promises no day that a payment would move, and says why a choice is lost', () => {
    follows([
      ada(
        hive('GAINS', { end: '2027-01-05T10:00:00Z', renews: true }),
        hive('LOSES', { title: 'Pollen Lab', target: 'course/pollen', why: 'No place is left for it.' }),
      ),
    ]);
    expect(screen.getByText('as long as it is paid for')).toBeInTheDocument();
    expect(screen.queryByText(/2027/)).not.toBeInTheDocument();
    expect(screen.getByText('No place is left for it.')).toBeInTheDocument();
  });

  it('says until when somebody is out', () => {
    follows([ada(hive('LOSES', { start: '2026-12-20T09:00:00Z' }))]);
    expect(screen.getByText('out until 20 Dec 2026')).toBeInTheDocument();
  });

  it('tells people apart where more than one is touched', () => {
    const letter = { subject: 'First Hive is open for you', text: 'Hello Ben' };
    const ben: Touched = {
      key: 'ben@post.example',
      name: 'Ben',
      isNew: true,
      changes: [hive('GAINS')],
      letter,
    };
    follows([ada(hive('LOSES')), ben]);
    expect(screen.getByRole('heading', { name: 'For Ada' })).toBeInTheDocument();
    expect(screen.getByRole('heading', { name: 'For Ben' })).toBeInTheDocument();
    expect(screen.getByRole('heading', { name: 'Ben will read' })).toBeInTheDocument();
    expect(screen.getByText('Hello Ben')).toBeInTheDocument();
  });

  it('does not leave it open when nothing opens', () => {
    follows([ada()], { nothing: [{ product: 'VEIL', why: 'nothing is mapped to it' }] });
    expect(screen.getByText('Nothing opens or closes')).toBeInTheDocument();
    expect(screen.getByText('VEIL: nothing is mapped to it')).toBeInTheDocument();
  });

  it('warns of gifts that can no longer be taken up', () => {
    follows([], { seatsGone: 3 });
    expect(screen.getByText('3 gifts or seats that nobody has yet')).toBeInTheDocument();
    expect(screen.queryByText('Nothing opens or closes')).not.toBeInTheDocument();
  });
});
