/** How many digits an amount of a currency has behind its point: 2 of euros, 0 of yen (ISO 4217). */
export function minorDigits(currency: string): number {
  const { maximumFractionDigits } = new Intl.NumberFormat('en', {
    style: 'currency',
    currency,
  }).resolvedOptions();
  return maximumFractionDigits ?? 2;
}

/** As somebody would type it: "180.00" euros, "180" yen. */
export function typedMoney(amount: number, currency: string): string {
  return amount.toFixed(minorDigits(currency));
}

/** Adds amounts up in the currency's smallest units, so that nothing is lost on the way. */
export function sumOf(amounts: number[], currency: string): number {
  const units = 10 ** minorDigits(currency);
  return amounts.reduce((sum, amount) => sum + Math.round(amount * units), 0) / units;
}
