import type { ReactNode } from 'react';
import { z } from 'zod';
import { ActPanel } from '../desk/ActPanel';
import { PersonChoice } from '../desk/PersonChoice';
import type { Somebody } from '../desk/somebody';
import type { Sheet } from '../desk/useAct';
import { DayField } from '../ui/DayField';
import { typedMoney } from '../ui/money';
import { counted, exactMoney } from '../ui/words';
import { amount, AMOUNT } from './items';
import type { OrderShown } from './words';
import { Field, FieldFrame, TextArea, useActFields } from '../ui/kit';

/** What is to be done about an order. */
export interface OrderDeed {
  kind: 'PAY' | 'PAY_INSTALMENT' | 'INVOICE' | 'FULFIL' | 'CANCEL' | 'REFUND' | 'CLAIM' | 'ASSIGN';
  line?: string;
  number?: number;
  /** How much is given back, unless somebody types otherwise. */
  amount?: number;
}

interface Props {
  order: OrderShown;
  deed: OrderDeed;
  onEnd: () => void;
}

/** One act about an order in the margin, with its form and what would follow. */
export function OrderAct(props: Props) {
  const { order, deed, onEnd } = props;
  const about = { order: order.id };
  switch (deed.kind) {
    case 'PAY':
      return <Pay {...props} />;
    case 'PAY_INSTALMENT':
      return (
        <Panel
          onEnd={onEnd}
          title={`Payment ${deed.number}`}
          confirm="It was paid"
          sheet={
            deed.line === undefined || deed.number === undefined
              ? undefined
              : { ...about, kind: 'PAY_INSTALMENT', line: deed.line, number: deed.number }
          }
        />
      );
    case 'INVOICE':
      return <NoteInvoice {...props} />;
    case 'FULFIL':
      return (
        <Panel
          onEnd={onEnd}
          title="Mark as fulfilled"
          confirm="It is fulfilled"
          sheet={{ ...about, kind: 'FULFIL' }}
        />
      );
    case 'CANCEL':
      return (
        <Panel
          onEnd={onEnd}
          title="Cancel the order"
          confirm="Cancel it"
          sheet={{ ...about, kind: 'CANCEL' }}
        >
          <p className="text-soft">Nothing is given back by this: refund it first where money came.</p>
        </Panel>
      );
    case 'REFUND':
      return <Refund {...props} />;
    case 'ASSIGN':
      return <Assign {...props} />;
    case 'CLAIM':
      return <Claim {...props} />;
  }
}

interface PanelProps {
  title: string;
  confirm: string;
  sheet: Sheet | undefined;
  onEnd: () => void;
  children?: ReactNode;
}

function Panel({ onEnd, ...rest }: PanelProps) {
  return <ActPanel onDone={onEnd} onCancel={onEnd} {...rest} />;
}

const PAYMENT = z.object({ method: z.string().max(100), reference: z.string().max(200) });

function Pay({ order, onEnd }: Props) {
  const form = useActFields(PAYMENT, { method: 'bank transfer', reference: '' });
  return (
    <Panel
      onEnd={onEnd}
      title="Enter the payment"
      confirm={`Paid: ${exactMoney(order.owed, order.currency)}`}
      sheet={form.filled && { order: order.id, kind: 'PAY', payment: { kind: 'ALREADY', ...form.filled } }}
    >
      <Field label="How" maxLength={100} {...form.field('method')} />
      <Field label="Reference" maxLength={200} {...form.field('reference')} />
    </Panel>
  );
}

const INVOICE = z.object({
  number: z.string().trim().min(1, 'The invoice has a number.').max(200),
  payBy: z.string(),
});

function NoteInvoice({ order, onEnd }: Props) {
  const form = useActFields(INVOICE, { number: '', payBy: '' });
  const { filled } = form;
  return (
    <Panel
      onEnd={onEnd}
      title="Note the invoice"
      confirm="It was sent"
      sheet={
        filled && {
          order: order.id,
          kind: 'INVOICE',
          payment: {
            kind: 'LATER_OPEN_WHEN_PAID',
            reference: filled.number,
            ...(filled.payBy !== '' && { payBy: filled.payBy }),
          },
        }
      }
    >
      <Field label="Number of the invoice" maxLength={200} first {...form.field('number')} />
      <DayField label="To be paid by" {...form.picked('payBy')} />
    </Panel>
  );
}

const REFUND = z.object({ amount: AMOUNT, reason: z.string().max(500) });

function Refund({ order, deed, onEnd }: Props) {
  const form = useActFields(REFUND, {
    amount: deed.amount === undefined ? '' : typedMoney(deed.amount, order.currency),
    reason: '',
  });
  const { filled } = form;
  const line = order.lines.find((one) => one.line === deed.line);
  const { paid, givenBack } = line ?? order;
  return (
    <Panel
      onEnd={onEnd}
      title={line === undefined ? `Refund order ${order.id}` : `Refund ${line.title}`}
      confirm={order.total === 0 ? 'Take it back' : 'It is given back'}
      sheet={
        filled && {
          order: order.id,
          kind: 'REFUND',
          reason: filled.reason,
          ...(deed.line !== undefined && { line: deed.line }),
          ...(filled.amount.trim() !== '' && { amount: amount(filled.amount) }),
        }
      }
    >
      {order.total > 0 && (
        <Field
          label="How much"
          placeholder={`all that is left: ${exactMoney(paid - givenBack, order.currency)}`}
          {...form.field('amount')}
        />
      )}
      <Field label="Why" maxLength={500} {...form.field('reason')} />
    </Panel>
  );
}

const SEATS = z.object({ addresses: z.string() });

function Assign({ order, deed, onEnd }: Props) {
  const form = useActFields(SEATS, { addresses: '' });
  const line = order.lines.find((one) => one.line === deed.line);
  const people = form.values.addresses.split(/[\s,;]+/).filter((address) => address !== '');
  const { fault, ...addresses } = form.field('addresses');
  return (
    <Panel
      onEnd={onEnd}
      title={`Seats of ${line?.title ?? ''}`}
      confirm={people.length === 0 ? 'Give them' : `Give ${counted(people.length, 'seat', 'seats')}`}
      sheet={
        deed.line === undefined || people.length === 0
          ? undefined
          : { order: order.id, kind: 'ASSIGN', line: deed.line, to: people }
      }
    >
      <FieldFrame label="Addresses, one on each line" fault={fault}>
        {(tied) => <TextArea rows={6} {...addresses} {...tied} />}
      </FieldFrame>
    </Panel>
  );
}

const SEAT = z.object({ person: z.custom<Somebody>().optional(), name: z.string().max(200) });

function Claim({ order, deed, onEnd }: Props) {
  const form = useActFields(SEAT, { name: '' });
  const { person, name } = form.values;
  return (
    <Panel
      onEnd={onEnd}
      title={`Seat ${deed.number} of order ${order.id}`}
      confirm="Give it"
      sheet={
        person === undefined || deed.line === undefined || deed.number === undefined
          ? undefined
          : {
              order: order.id,
              kind: 'CLAIM',
              line: deed.line,
              number: deed.number,
              person: person.key,
              ...(name.trim() !== '' && { name }),
            }
      }
    >
      <PersonChoice label="For whom" person={person} onChoose={form.picked('person').onChange} />
      {person?.known === false && (
        <Field label="What they are called" maxLength={200} {...form.field('name')} />
      )}
    </Panel>
  );
}
