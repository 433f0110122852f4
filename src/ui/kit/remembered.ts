import type { z } from 'zod';
import { create, type StoreApi, type UseBoundStore } from 'zustand';
import { keepText } from './storage';

/** A choice that the browser remembers under a name; what is stored in another form falls back to the defaults. */
export function remembered<T extends object>(name: string, schema: z.ZodType<T>): UseBoundStore<StoreApi<T>> {
  const key = `copper-lane-${name}`;
  const read = (): T => {
    try {
      return schema.parse(JSON.parse(globalThis.localStorage?.getItem(key) ?? '{}'));
    } catch {
      return schema.parse({});
    }
  };
  const store = create<T>(read);
  store.subscribe((state) => void keepText(key, JSON.stringify(state)));
  return store;
}
