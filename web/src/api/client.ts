// The way to the server: typed calls, the CSRF token, and errors as values that the screen can say.
import createClient from "openapi-fetch";
import type { paths } from "./schema";
import type { Fault } from "./types";

function token(): string {
  return document.cookie.match(/(?:^|; )csrftoken=([^;]+)/)?.[1] ?? "";
}

export const api = createClient<paths>({
  // outside a page, as in tests, addresses need an origin of their own
  baseUrl: globalThis.location?.origin ?? "http://127.0.0.1",
  fetch: (request: Request) => {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", token());
    return fetch(request);
  },
});

/** An answer of the server that is no success, or the server's silence (status 0). */
export class ApiError extends Error {
  readonly status: number;
  readonly fault: Fault;

  constructor(status: number, fault: Fault) {
    super(fault.message);
    this.status = status;
    this.fault = fault;
  }

  /** whether the server could not do now what it was asked for: it is asked again later, and nothing is dropped */
  get offline(): boolean {
    return this.status === 0 || this.status === 408 || this.status === 429 || this.status >= 500;
  }
}

/** What went wrong, as a sentence. */
export function said(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}

/** A file as the body of a call. */
export function fileIn(
  file: File,
  more: Record<string, string | string[]> = {},
): { body: never; bodySerializer: () => FormData } {
  const form = new FormData();
  for (const [field, values] of Object.entries(more)) for (const value of [values].flat()) form.append(field, value);
  form.append("file", file);
  return { body: form as never, bodySerializer: () => form };
}

const SILENT: Fault = {
  code: "no_server",
  message: "The server does not answer. What you typed is kept; it is sent as soon as the server is back.",
};

/** The data of a call, or an ApiError thrown. */
export async function got<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let result: { data?: T; error?: unknown; response: Response };
  try {
    result = await call;
  } catch (cause) {
    if (cause instanceof DOMException && cause.name === "AbortError") throw cause;
    throw new ApiError(0, SILENT);
  }
  if (result.error !== undefined || !result.response.ok) {
    const fault = (result.error ?? {}) as Partial<Fault>;
    const message = fault.message ?? `The server answered with an error (${result.response.status}).`;
    throw new ApiError(result.response.status, { ...fault, code: fault.code ?? "http_error", message });
  }
  return result.data as T;
}
