import { Button } from './Button';

/** What is on the page, on paper or as a PDF: the browser asks which. */
export function PrintButton() {
  return (
    <Button small onClick={() => window.print()}>
      Print or save as PDF
    </Button>
  );
}
