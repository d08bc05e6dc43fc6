import type { Schemas } from '../api/client';
import { useOffer } from '../desk/offer';
import { Check, Checkbox, Input, Select } from '../ui/kit';

/** What somebody invented buys; no product = the first that opens something. */
export interface SampleSale {
  product: string;
  option: string;
  quantity: string;
  guest: boolean;
  refund: boolean;
}

export const ANY_SALE: SampleSale = { product: '', option: '', quantity: '1', guest: false, refund: false };

export function saleSheet({ product, option, quantity, guest, refund }: SampleSale): Schemas['Wanted'] {
  return {
    ...(product !== '' && { product }),
    ...(option !== '' && { option }),
    quantity: Math.max(1, Math.trunc(Number(quantity)) || 1),
    guest,
    refund,
  };
}

/** Which sale is followed when a shop is tried. */
export function SaleToTry({ sale, onChange }: { sale: SampleSale; onChange: (sale: SampleSale) => void }) {
  const offer = useOffer();
  const chosen = offer?.products.find((product) => product.id === sale.product);
  return (
    <fieldset className="mt-2 grid gap-1.5">
      <legend className="text-soft">The sale that Try once follows</legend>
      <Select
        className="w-full"
        aria-label="Product to try"
        value={sale.product}
        onChange={(event) => onChange({ ...sale, product: event.target.value, option: '' })}
      >
        <option value="">the first product that opens something</option>
        {offer?.products.map((product) => (
          <option key={product.id} value={product.id}>
            {product.title}
          </option>
        ))}
      </Select>
      {chosen !== undefined && chosen.options.length > 0 && (
        <Select
          className="w-full"
          aria-label="Option to try"
          value={sale.option}
          onChange={(event) => onChange({ ...sale, option: event.target.value })}
        >
          <option value="">no option</option>
          {chosen.options.map((option) => (
            <option key={option.id} value={option.id}>
              {option.title}
            </option>
          ))}
        </Select>
      )}
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5">
        <Check>
          <Input
            className="w-18"
            type="number"
            min={1}
            max={99}
            aria-label="How many to try"
            value={sale.quantity}
            onChange={(event) => onChange({ ...sale, quantity: event.target.value })}
          />
          of it
        </Check>
        <Check>
          <Checkbox
            checked={sale.guest}
            onChange={(event) => onChange({ ...sale, guest: event.target.checked })}
          />
          as a guest
        </Check>
        <Check>
          <Checkbox
            checked={sale.refund}
            onChange={(event) => onChange({ ...sale, refund: event.target.checked })}
          />
          paid back later
        </Check>
      </div>
    </fieldset>
  );
}
