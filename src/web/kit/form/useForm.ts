import { toNestErrors } from '@hookform/resolvers';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useId, useMemo, useRef, useState } from 'react';
import {
  type DefaultValues,
  type FieldErrors,
  type FieldPath,
  type FieldValues,
  get as getAt,
  type Resolver,
  type UseFormReturn,
  useForm as useHookForm,
} from 'react-hook-form';
import { type FieldProblem, sayField } from '#contract/wrong.ts';
import { ApiProblem, readingIn } from '#web/api.ts';
import { askAnew } from '#web/topics.ts';
import { type Keeping, keepDraft, readDraft } from './drafts.ts';
import type { Prepared } from './request.ts';

/** One problem of a form: of a field that stands in it, by its path, or of the whole. */
export interface FormProblem {
  /** The id of the field that is focused from the summary; null when no field is meant. */
  fieldId: string | null;
  label: string | null;
  message: string;
}

/** A form as its parts see it. */
export interface Form<V extends FieldValues> {
  /** The form of react-hook-form below it. */
  hook: UseFormReturn<V>;
  values: V;
  set(part: Partial<V>): void;
  idOf(path: string): string;
  /** What is wrong at a path. */
  wrongAt(path: string): string | undefined;
  /** Says how a field is called, for the summary. */
  named(path: string, label: string): void;
  problems: readonly FormProblem[];
  submit(): void;
  sending: boolean;
  /** Something was typed that was not sent and is kept nowhere else. */
  dirty: boolean;
  /** The same, known also before it is drawn again. */
  loses: () => boolean;
  /** What was typed earlier was found on this device. */
  restored: boolean;
  /** Back to what it began with. */
  startOver(): void;
}

export interface FormOptions<V extends FieldValues, A> {
  values: V;
  /** The request that the values make. */
  request: (values: V) => Prepared<A>;
  after?: (answer: A, values: V) => void;
  /** What is wrong beside what the contract says, known before it is sent. */
  check?: (values: V) => readonly FieldProblem[];
  /** The field of a path of the request, where they are not called the same. */
  fieldOf?: (path: string, values: V) => string;
  /** Under which name what is typed is kept on this device, and where. */
  draft?: { name: string; keeping: Keeping };
  /** Begins anew with the same values once it was sent. */
  again?: boolean;
}

const same = (path: string): string => path;

/**
 * A form that sends one request: its values are checked by the contract before they are sent, all problems at once; what
 * the server finds stands beside the same fields. However often it is sent, the same contents are done once.
 */
export function useForm<V extends FieldValues, A>(options: FormOptions<V, A>): Form<V> {
  const { request, after, fieldOf = same, draft, again = false } = options;
  const client = useQueryClient();
  const [stored] = useState(() => (draft ? readDraft<V>(draft.name, draft.keeping) : null));
  const [restored, setRestored] = useState(stored !== null);
  const [sending, setSending] = useState(false);
  const [whole, setWhole] = useState<string | null>(null);
  const [tries, setTries] = useState(0);
  const begun = useRef(false);
  const key = useRef({ contents: '', key: '' });
  const labels = useRef(new Map<string, string>());
  const id = useId().replaceAll(':', '');
  const unsent = useRef(false);
  const loses = useCallback(() => unsent.current, []);
  const latest = useRef(options);
  latest.current = options;

  const resolver: Resolver<V> = useCallback((values, _, at) => {
    const { request, check, fieldOf = same } = latest.current;
    const found = [...request(values).problems(), ...(check?.(values) ?? [])];
    if (!found.length) return { values, errors: {} };
    const errors: Record<string, { type: string; message: string }> = {};
    for (const problem of found)
      errors[fieldOf(problem.path, values)] ??= {
        type: 'code' in problem ? problem.code : 'wrong',
        message: sayField(problem, readingIn()),
      };
    return { values: {}, errors: toNestErrors(errors as FieldErrors<V>, at) as FieldErrors<V> };
  }, []);

  const hook = useHookForm<V>({
    defaultValues: options.values as DefaultValues<V>,
    ...(stored
      ? { values: { ...options.values, ...stored }, resetOptions: { keepDefaultValues: true } }
      : {}),
    resolver,
    mode: 'onSubmit',
    reValidateMode: 'onChange',
    shouldFocusError: false,
  });
  const { errors, isDirty } = hook.formState;
  unsent.current = isDirty && !draft;
  const values = hook.watch();

  const idOf = useCallback((path: string) => `${id}-${path.replaceAll('.', '-')}`, [id]);
  const problems = useMemo(() => {
    // In the order the fields stand; what belongs to none of them comes last.
    const order = [...labels.current.keys()];
    const placeOf = (path: string) => (labels.current.has(path) ? order.indexOf(path) : order.length);
    const listed: FormProblem[] = flatten(errors)
      .sort(([a], [b]) => placeOf(a) - placeOf(b))
      .map(([path, message]) => ({
        fieldId: labels.current.has(path) ? idOf(path) : null,
        label: labels.current.get(path) ?? null,
        message,
      }));
    return whole && !listed.length ? [{ fieldId: null, label: null, message: whole }] : listed;
  }, [errors, whole, idOf]);

  // After a try that did not succeed one begins at the first field that is wrong, in the order they stand.
  const focused = useRef(0);
  useEffect(() => {
    // What is wrong is drawn after the try was counted.
    if (focused.current === tries || !problems.length) return;
    focused.current = tries;
    const wrong = [...document.querySelectorAll<HTMLElement>(`[id^="${id}-"][aria-invalid="true"]`)][0];
    (wrong ?? document.getElementById(`${id}-problems`))?.focus();
  }, [tries, problems, id]);

  const text = draft ? JSON.stringify(values) : '';
  useEffect(() => {
    if (draft && (isDirty || restored)) keepDraft(draft.name, draft.keeping, JSON.parse(text));
  }, [draft?.name, draft?.keeping, text, isDirty, restored, draft]);

  const settle = (answer: A, sent: V) => {
    unsent.current = false;
    if (draft) keepDraft(draft.name, draft.keeping, null);
    setRestored(false);
    hook.reset(again ? (options.values as DefaultValues<V>) : (sent as DefaultValues<V>));
    after?.(answer, sent);
  };

  const send = async (sent: V) => {
    const ready = request(sent);
    if (key.current.contents !== ready.contents)
      key.current = { contents: ready.contents, key: crypto.randomUUID() };
    setSending(true);
    setWhole(null);
    try {
      const answer = await ready.send(key.current.key);
      key.current = { contents: '', key: '' };
      await askAnew(client, ready.changes);
      settle(answer, sent);
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      for (const [path, message] of Object.entries(error.fields))
        hook.setError(fieldOf(path, sent) as FieldPath<V>, { type: 'server', message });
      setWhole(error.message);
      setTries((n) => n + 1);
    } finally {
      begun.current = false;
      setSending(false);
    }
  };

  return {
    hook,
    values,
    set: (part) => {
      for (const [name, value] of Object.entries(part))
        hook.setValue(name as FieldPath<V>, value as never, {
          shouldDirty: true,
          shouldValidate: hook.formState.isSubmitted,
        });
    },
    idOf,
    wrongAt: (path) => (getAt(errors, path) as { message?: string } | undefined)?.message,
    named: (path, label) => {
      labels.current.set(path, label);
    },
    problems,
    submit: () => {
      // A second click while the first is under way changes nothing.
      if (begun.current) return;
      begun.current = true;
      setWhole(null);
      void hook.handleSubmit(
        (sent) => send(sent as V),
        () => {
          begun.current = false;
          setTries((n) => n + 1);
        },
      )();
    },
    sending,
    dirty: isDirty && !draft,
    loses,
    restored,
    startOver: () => {
      if (draft) keepDraft(draft.name, draft.keeping, null);
      setRestored(false);
      setWhole(null);
      hook.reset(options.values as DefaultValues<V>);
    },
  };
}

/** The messages of nested errors by path. */
function flatten(errors: object, before = ''): [string, string][] {
  return Object.entries(errors).flatMap(([name, error]): [string, string][] => {
    if (!error || typeof error !== 'object') return [];
    const path = before ? `${before}.${name}` : name;
    const { message } = error as { message?: unknown };
    return typeof message === 'string' && 'type' in error
      ? [[path, message]]
      : flatten(error as object, path);
  });
}
