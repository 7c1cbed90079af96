import createClient from 'openapi-fetch'
import type { components, paths } from './schema.gen'

export type Schemas = components['schemas']
export const api = createClient<paths>({ baseUrl: location.origin })

/** Where in a text: characters from 1. */
export type Place = { column: number; width: number }

/** What the server refused, in words for a person, with the field it lies in and, in a text, the place. */
export class Refusal extends Error {
  status: number
  field: string
  place: Place | null
  constructor(status: number, detail: string, field = '', place: Place | null = null) {
    super(detail)
    this.status = status
    this.field = field
    this.place = place
  }
}

type Problem = {
  status?: number
  detail?: string
  errors?: { location?: string; message?: string; value?: unknown }[] | null
}

/** Unwraps an answer: its data, or a Refusal. A server that cannot be reached is a Refusal of status 0. */
export async function ask<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let answer
  try {
    answer = await call
  } catch (cause) {
    if (cause instanceof DOMException && cause.name === 'AbortError') throw cause
    throw new Refusal(0, 'The server cannot be reached. What was saved before is kept.')
  }
  if (answer.response.ok) return answer.data as T
  if (answer.response.status === 401) window.dispatchEvent(new Event('signed-out'))
  const problem = (answer.error ?? {}) as Problem
  const first = problem.errors?.[0]
  const place =
    first?.value && typeof first.value === 'object' && 'column' in first.value ? (first.value as Place) : null
  throw new Refusal(
    answer.response.status,
    problem.detail || 'The server did not answer as it should.',
    first?.location ?? '',
    place,
  )
}
