import { push } from 'svelte-spa-router'
import { api, ask, type Schemas } from '../api/client'
import { editorOf } from '../drills/doc'

/** Takes what is proposed and goes to the floor with it, or to the desk to change it first. */
export async function take(p: Schemas['Proposal'], choice: 'accept' | 'change', reason = '') {
  const bag = p.move === 'given' ? {} : { rigId: p.rigId }
  const given = await ask(
    api.POST('/api/trainees/{id}/accept', {
      params: { path: { id: p.traineeId } },
      body: { ...bag, choice, ...(reason ? { reason } : {}) },
    }),
  )
  void push(choice === 'accept' ? `/run/${given.id}` : editorOf(given.doc, given.id))
}

/** What can be done with a proposal in one word. */
