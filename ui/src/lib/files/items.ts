import { api } from '../api/client'

type File = () => Promise<{ data?: Blob; error?: unknown; response: Response }>
/** Something to take away: a file, or a page to print. */
export type Item = { text: string; as: string } & (
  { href: string; file?: undefined } | { href?: undefined; file: File }
)

const blob = { parseAs: 'blob' as const }
const of = (id: string) => ({ params: { path: { id } }, ...blob })
const heard = (id: string, without: boolean) => ({ params: { path: { id }, query: { without } }, ...blob })

/** What is laid out, as notes and as sound. */
const song = (midi: File, wav: (without: boolean) => ReturnType<File>): Item[] => [
  { text: 'Its notes', as: 'MIDI', file: midi },
  { text: 'Its sound', as: 'WAV', file: () => wav(false) },
  { text: 'Bells and calls alone', as: 'WAV', file: () => wav(true) },
]

export const gymFiles: Item[] = [
  { text: 'The whole gym', as: 'JSON', file: () => api.GET('/api/export/gym', blob) },
  { text: 'The log', as: 'CSV', file: () => api.GET('/api/export/log', blob) },
  { text: 'Every hit', as: 'CSV', file: () => api.GET('/api/export/hits', blob) },
  { text: 'The calendar', as: 'iCalendar', file: () => api.GET('/api/export/calendar', blob) },
]

/** The log and the hits: of one person, where one is named. */
export const logFiles = (trainee: string): Item[] => {
  const only = { params: { query: trainee ? { trainee } : {} }, ...blob }
  return [
    { text: 'The log', as: 'CSV', file: () => api.GET('/api/export/log', only) },
    { text: 'Every hit', as: 'CSV', file: () => api.GET('/api/export/hits', only) },
  ]
}

/** What the gym keeps of one person. */
export const personFiles = (id: string): Item[] => [
  { text: 'Everything of them', as: 'JSON', file: () => api.GET('/api/trainees/{id}/export', of(id)) },
  ...logFiles(id),
  { text: 'Progress', as: 'to print', href: `/people/${id}/progress` },
]

export const bagFiles = (id: string, traineeId: string): Item[] => [
  { text: 'The bag', as: 'JSON', file: () => api.GET('/api/rigs/{id}/document', of(id)) },
  ...(traineeId ? [{ text: 'Setting card', as: 'to print', href: `/cards/${id}/${traineeId}` }] : []),
]

const drillFile = (id: string): Item => ({
  text: 'The drill',
  as: 'JSON',
  file: () => api.GET('/api/drills/{id}/document', of(id)),
})

/** A drill of the gym, laid out for a beginner on the first bag of its kind. */
export const drillFiles = (id: string): Item[] => [
  drillFile(id),
  ...song(
    () => api.GET('/api/drills/{id}/midi', of(id)),
    (without) => api.GET('/api/drills/{id}/wav', heard(id, without)),
  ),
]

/** A drill as somebody has it on their bag. */
export const givenFiles = (id: string, drillId: string): Item[] => [
  drillFile(drillId),
  ...song(
    () => api.GET('/api/assignments/{id}/midi', of(id)),
    (without) => api.GET('/api/assignments/{id}/wav', heard(id, without)),
  ),
  { text: 'Its card', as: 'to print', href: `/run/${id}/card` },
]

export const sessionFiles = (id: string): Item[] => [
  { text: 'The session', as: 'JSON', file: () => api.GET('/api/sessions/{id}/document', of(id)) },
  ...song(
    () => api.GET('/api/sessions/{id}/midi', of(id)),
    (without) => api.GET('/api/sessions/{id}/wav', heard(id, without)),
  ),
  { text: 'Its card', as: 'to print', href: `/sessions/${id}/card` },
]
