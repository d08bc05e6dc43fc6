import { createContext, use, useCallback, useEffect, useMemo, useState, type ReactNode } from 'react';
import { problemOf } from '../api/client';

/** What is wrong with one field. */
export interface FieldProblem {
  field: string;
  problem: string;
}

/** Which fields a refusal of the server is about; empty where it is about none. */
export function fieldProblems(error: unknown): FieldProblem[] {
  const { errors } = problemOf(error);
  return errors ?? [];
}

interface Tie {
  faults: ReadonlyMap<string, string>;
  /** Says that a field of this name is on the screen; gives back how to say that it is gone. */
  tie: (name: string) => () => void;
}

const Faults = createContext<Tie | undefined>(undefined);

interface Props {
  problems: FieldProblem[];
  children: ReactNode;
  /** For what no field on the screen is about. */
  rest?: (problems: FieldProblem[]) => ReactNode;
}

/** Puts what is wrong at the field that it is about; what no field is about is said by `rest`. */
export function FaultsAtFields({ problems, children, rest }: Props) {
  const [tied, setTied] = useState<readonly string[]>([]);
  const tie = useCallback((name: string) => {
    setTied((before) => [...before, name]);
    return () => setTied((before) => before.filter((one) => one !== name));
  }, []);
  const value = useMemo(
    () => ({ faults: new Map(problems.map(({ field, problem }) => [field, problem])), tie }),
    [problems, tie],
  );
  return (
    <Faults value={value}>
      {children}
      {rest?.(problems.filter(({ field }) => !tied.includes(field)))}
    </Faults>
  );
}

/** What is wrong with the field of this name, as far as somebody around it knows. */
export function useFault(name: string | undefined): string | undefined {
  const around = use(Faults);
  const tie = around?.tie;
  useEffect(() => (name === undefined ? undefined : tie?.(name)), [name, tie]);
  return name === undefined ? undefined : around?.faults.get(name);
}
