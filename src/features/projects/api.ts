/** A project in the list, as the server tells it. */
export interface ProjectSummary {
  readonly id: string;
  readonly name: string;
  readonly version: number;
  readonly updatedAt: string;
  /** Names of its gaits and bodies, in order. */
  readonly gaits: readonly string[];
  readonly bodies: readonly string[];
}

/** Calls a project route; a fault becomes an Error with the server's words. */
export async function projectCall<T>(method: string, path: string, body?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(
      `/api/projects${path}`,
      method === 'GET' ? { method } : { method, body: JSON.stringify(body ?? {}), headers: { 'content-type': 'application/json' } },
    );
  } catch {
    throw new Error('The server does not answer. Nothing was changed.');
  }
  if (response.status === 204) return undefined as T;
  const json = (await response.json().catch(() => ({}))) as T & { detail?: string };
  if (!response.ok) throw new Error(json.detail ?? `The server refused (${response.status}). Nothing was changed.`);
  return json;
}
