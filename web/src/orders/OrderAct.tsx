import { typedMoney } from '../ui/money';
import { useState } from 'react';
import { ActPanel } from '../desk/ActPanel';
import { PersonChoice } from '../desk/PersonChoice';
import type { Somebody } from '../desk/PersonFinder';
import type { Sheet } from '../desk/useAct';
import { DayField } from '../ui/DayField';
import { counted, exactMoney } from '../ui/words';
import { amount, amountFault } from './items';
import type { OrderShown } from './words';
import { Field, FieldFrame, TextArea } from '../ui/kit';

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
export function OrderAct({ order, deed, onEnd }: Props) {
  const [text, setText] = useState('');
  const [method, setMethod] = useState('bank transfer');
  const [payBy, setPayBy] = useState('');
  const [back, setBack] = useState(deed.amount === undefined ? '' : typedMoney(deed.amount, order.currency));
  const [reason, setReason] = useState('');
  const [person, setPerson] = useState<Somebody>();
  const about = { order: order.id };
  const line = order.lines.find((one) => one.line === deed.line);
  const panel = { onDone: onEnd, onCancel: onEnd };
  switch (deed.kind) {
    case 'PAY':
      return (
        <ActPanel
          {...panel}
          title="Enter the payment"
          confirm={`Paid: ${exactMoney(order.owed, order.currency)}`}
          sheet={{ ...about, kind: 'PAY', payment: { kind: 'ALREADY', method, reference: text } }}
        >
          <Field label="How" value={method} onValue={setMethod} maxLength={100} />
          <Field label="Reference" value={text} onValue={setText} maxLength={200} />
        </ActPanel>
      );
    case 'PAY_INSTALMENT':
      return (
        <ActPanel
          {...panel}
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
      return (
        <ActPanel
          {...panel}
          title="Note the invoice"
          confirm="It was sent"
          sheet={
            text.trim() === ''
              ? undefined
              : {
                  ...about,
                  kind: 'INVOICE',
                  payment: {
                    kind: 'LATER_OPEN_WHEN_PAID',
                    reference: text,
                    ...(payBy !== '' && { payBy }),
                  },
                }
          }
        >
          <Field label="Number of the invoice" value={text} onValue={setText} maxLength={200} first />
          <DayField label="To be paid by" value={payBy} onChange={setPayBy} />
        </ActPanel>
      );
    case 'FULFIL':
      return (
        <ActPanel
          {...panel}
          title="Mark as fulfilled"
          confirm="It is fulfilled"
          sheet={{ ...about, kind: 'FULFIL' }}
        />
      );
    case 'CANCEL':
      return (
        <ActPanel
          {...panel}
          title="Cancel the order"
          confirm="Cancel it"
          sheet={{ ...about, kind: 'CANCEL' }}
        >
          <p className="text-soft">Nothing is given back by this: refund it first where money came.</p>
        </ActPanel>
      );
    case 'REFUND': {
      const sheet: Sheet = {
        ...about,
        kind: 'REFUND',
        reason,
        ...(deed.line !== undefined && { line: deed.line }),
        ...(back.trim() !== '' && { amount: amount(back) }),
      };
      const left = line === undefined ? order.paid - order.givenBack : line.paid - line.givenBack;
      return (
        <ActPanel
          {...panel}
          title={line === undefined ? `Refund order ${order.id}` : `Refund ${line.title}`}
          confirm={order.total === 0 ? 'Take it back' : 'It is given back'}
          sheet={amountFault(back) === undefined ? sheet : undefined}
        >
          {order.total > 0 && (
            <Field
              name="amount"
              label="How much"
              value={back}
              onValue={setBack}
              placeholder={`all that is left: ${exactMoney(left, order.currency)}`}
            />
          )}
          {amountFault(back) !== undefined && (
            <p className="text-warning" role="status">
              {amountFault(back)}.
            </p>
          )}
          <Field name="reason" label="Why" value={reason} onValue={setReason} maxLength={500} />
        </ActPanel>
      );
    }
    case 'ASSIGN': {
      const people = text.split(/[\s,;]+/).filter((address) => address !== '');
      return (
        <ActPanel
          {...panel}
          title={`Seats of ${line?.title ?? ''}`}
          confirm={people.length === 0 ? 'Give them' : `Give ${counted(people.length, 'seat', 'seats')}`}
          sheet={
            deed.line === undefined || people.length === 0
              ? undefined
              : { ...about, kind: 'ASSIGN', line: deed.line, to: people }
          }
        >
          <FieldFrame label="Addresses, one on each line">
            {(tied) => (
              <TextArea rows={6} value={text} onChange={(event) => setText(event.target.value)} {...tied} />
            )}
          </FieldFrame>
        </ActPanel>
      );
    }
    case 'CLAIM':
      return (
        <ActPanel
          {...panel}
          title={`Seat ${deed.number} of order ${order.id}`}
          confirm="Give it"
          sheet={
            person === undefined || deed.line === undefined || deed.number === undefined
              ? undefined
              : {
                  ...about,
                  kind: 'CLAIM',
                  line: deed.line,
                  number: deed.number,
                  person: person.key,
                  ...(text.trim() !== '' && { name: text }),
                }
          }
        >
          <PersonChoice label="For whom" person={person} onChoose={setPerson} />
          {person?.known === false && (
            <Field label="What they are called" value={text} onValue={setText} maxLength={200} />
          )}
        </ActPanel>
      );
  }
}
