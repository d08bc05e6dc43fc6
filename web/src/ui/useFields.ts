import { zodResolver } from '@hookform/resolvers/zod';
import { useForm, type DefaultValues, type FieldPath, type FieldValues } from 'react-hook-form';
import type { ZodType } from 'zod';
import { fieldProblems } from './faults';

/**
 * A form whose fields are checked by a shape here, and by the server once it is sent: what either finds wrong stands at the field. What was typed stays
 * until it was taken.
 */
export function useFields<Values extends FieldValues>(
  shape: ZodType<Values, Values>,
  defaultValues: DefaultValues<Values>,
) {
  const { register, handleSubmit, formState, setError, reset, watch, setValue } = useForm<Values>({
    resolver: zodResolver(shape),
    defaultValues,
  });
  const field = (name: FieldPath<Values>) => ({
    ...register(name),
    fault: formState.errors[name]?.message as string | undefined,
  });
  /** Puts a refusal at the fields it is about; those of its problems stay visible that are about none. */
  const land = (error: unknown) => {
    for (const { field: name, problem } of fieldProblems(error)) {
      if (name in (formState.defaultValues ?? {})) {
        setError(name as FieldPath<Values>, { type: 'server', message: problem });
      }
    }
  };
  return { field, tick: register, land, handleSubmit, reset, watch, setValue, isDirty: formState.isDirty };
}
