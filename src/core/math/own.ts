/** What a record has of its own under a key that came from a file: never what every object has, as under `__proto__`. */
export const own = <T>(record: Readonly<Record<string, T>> | undefined, key: string): T | undefined =>
  record && Object.hasOwn(record, key) ? record[key] : undefined;
