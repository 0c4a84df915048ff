import { z } from 'zod'

/** The server's routes, with checked answers. Every failure is an ApiError with a sentence for the user. */
export class ApiError extends Error {
  constructor(
    message: string,
    /** HTTP status; 0 when the server could not be reached. */
    readonly status: number,
  ) {
    super(message)
  }
}

export const UNREACHABLE = 'The server does not answer: check that Zephyrine is still running.'

/** Asks the server. @throws ApiError */
export async function request(path: string, options: RequestInit = {}): Promise<unknown> {
  let response: Response
  let text: string
  try {
    response = await fetch(path, options)
    text = await response.text()
  } catch {
    throw new ApiError(UNREACHABLE, 0)
  }
  if (!response.ok) throw new ApiError(messageIn(text), response.status)
  try {
    return text === '' ? undefined : JSON.parse(text)
  } catch {
    throw new ApiError('The answer of the server was cut off on its way.', 0)
  }
}

/** An answer checked against a schema. @throws ApiError if it is something else */
export function checked<T>(schema: z.ZodType<T>, answer: unknown): T {
  const result = schema.safeParse(answer)
  if (!result.success) throw new ApiError('The server answered with something unexpected: reload the page.', 0)
  return result.data
}

/** The sentence in an answer that is an error. */
export function messageIn(text: string): string {
  try {
    return z.object({ message: z.string() }).parse(JSON.parse(text)).message
  } catch {
    return 'The server answered with something unexpected: try again.'
  }
}

/** A request with a body of JSON. */
export const json = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
})
