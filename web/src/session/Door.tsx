import type { ReactNode } from 'react';

/** What is seen before one is in: the night on the left, the form on the right. */
export function Door({
  says,
  school,
  title,
  children,
}: {
  says: string;
  school?: string;
  title: string;
  children: ReactNode;
}) {
  return (
    <main className="grid min-h-dvh md:grid-cols-[minmax(300px,2fr)_3fr]">
      <div className="flex flex-col justify-end gap-4 bg-(image:--band) p-6 text-night-soft md:p-12">
        <p className="font-head text-[3.2rem] leading-none font-[750] tracking-[-0.03em] text-[#fffefa]">
          yoru<span className="text-lamp">.</span>
        </p>
        <p className="max-w-88 text-[1.15rem] leading-snug">{says}</p>
        {school !== undefined && <p className="font-semibold text-lamp">{school}</p>}
      </div>
      <div className="flex max-w-xl flex-col justify-center gap-5 p-6 md:p-12">
        <h1>{title}</h1>
        {children}
      </div>
    </main>
  );
}
