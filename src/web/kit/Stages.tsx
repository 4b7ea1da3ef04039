import { Tabs } from '@chakra-ui/react';
import type { ReactNode } from 'react';

/** A few views of one thing, one of them seen at a time. */
export function Stages<Value extends string>({
  value,
  set,
  label,
  stages,
  children,
}: {
  value: Value;
  set: (value: Value) => void;
  label: string;
  stages: readonly { value: Value; label: ReactNode }[];
  children: ReactNode;
}) {
  return (
    <Tabs.Root value={value} onValueChange={(d) => set(d.value as Value)} lazyMount unmountOnExit>
      <Tabs.List aria-label={label}>
        {stages.map((s) => (
          <Tabs.Trigger key={s.value} value={s.value}>
            {s.label}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content value={value}>{children}</Tabs.Content>
    </Tabs.Root>
  );
}
