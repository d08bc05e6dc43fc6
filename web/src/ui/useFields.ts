import { zodResolver } from '@hookform/resolvers/zod';
import {
  useForm,
  useWatch,
  type DefaultValues,
  type FieldPath,
  type Path,
  type PathValue,
  type FieldValues,
} from 'react-hook-form';
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
  return useShape(shape, defaultValues, 'onSubmit');
}

/**
 * The same for an act whose consequence is asked for while one types: what is wrong stands at its field at once, and `filled` is what is typed as soon as
 * nothing is wrong or missing.
 */
export function useActFields<Values extends FieldValues>(
  shape: ZodType<Values, Values>,
  defaultValues: DefaultValues<Values>,
) {
  const { control, ...form } = useShape(shape, defaultValues, 'onChange');
  const values = useWatch({ control }) as Values;
  const read = shape.safeParse(values);
  const set = <Name extends Path<Values>>(name: Name, value: PathValue<Values, Name>) =>
    form.setValue(name, value, { shouldValidate: true, shouldDirty: true });
  /** For what is picked and not typed: its value, and how to set it. */
  const picked = <Name extends keyof Values & Path<Values>>(name: Name) => ({
    value: values[name],
    onChange: (value: PathValue<Values, Name>) => set(name, value),
  });
  return { ...form, values, set, picked, filled: read.success ? read.data : undefined };
}

function useShape<Values extends FieldValues>(
  shape: ZodType<Values, Values>,
  defaultValues: DefaultValues<Values>,
  mode: 'onSubmit' | 'onChange',
) {
  const { control, register, handleSubmit, formState, setError, reset, watch, setValue } = useForm<Values>({
    resolver: zodResolver(shape),
    defaultValues,
    mode,
  });
  const fault = (name: FieldPath<Values>) => formState.errors[name]?.message as string | undefined;
  const field = (name: FieldPath<Values>) => ({ ...register(name), fault: fault(name) });
  /** Puts a refusal at the fields it is about; those of its problems stay visible that are about none. */
  const land = (error: unknown) => {
    for (const { field: name, problem } of fieldProblems(error)) {
      if (name in (formState.defaultValues ?? {})) {
        setError(name as FieldPath<Values>, { type: 'server', message: problem });
      }
    }
  };
  return {
    control,
    field,
    tick: register,
    land,
    handleSubmit,
    reset,
    watch,
    setValue,
    isDirty: formState.isDirty,
  };
}
