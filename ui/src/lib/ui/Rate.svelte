<!-- What a coach says of a round, or of somebody's turn in a class: counted by eye, in a word, and a note. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import { rated } from '../format'
  import { ratings } from '../labels.gen'
  import Button from './Button.svelte'
  import Choice from './Choice.svelte'
  import Problem from './Problem.svelte'

  type Rating = Schemas['Rating']
  type Props = { rating: Rating | null; name: string; save: (r: Rating) => Promise<unknown> }
  let { rating, name, save }: Props = $props()
  const id = $props.id()
  let clean = $state('')
  let outOf = $state('')
  let word = $state<Rating['word']>('')
  let note = $state('')
  let open = $state(false)
  let busy = $state(false)
  let problem = $state('')
  const whole = (text: string) => (/^\d+$/.test(text.trim()) ? Number(text) : undefined)

  function begin() {
    clean = rating?.clean == null ? '' : String(rating.clean)
    outOf = rating?.outOf == null ? '' : String(rating.outOf)
    word = rating?.word ?? ''
    note = rating?.note ?? ''
    problem = ''
    open = true
  }
  async function keep(e: SubmitEvent) {
    e.preventDefault()
    const [n, m] = [whole(clean), whole(outOf)]
    if ((clean.trim() !== '' || outOf.trim() !== '') && (n === undefined || m === undefined)) {
      problem = 'Count as so many clean of so many: two whole numbers.'
      return
    }
    busy = true
    try {
      await save({
        word,
        note: note.trim(),
        version: rating?.version ?? 0,
        ...(m === undefined ? {} : { clean: n!, outOf: m }),
      })
      open = false
    } catch (cause) {
      problem = `${cause instanceof Error ? cause.message : String(cause)} What you wrote stands here still.`
    } finally {
      busy = false
    }
  }
</script>

{#if !open}
  <p class="flex flex-wrap items-center gap-x-3 gap-y-1">
    {#if rating}
      <span
        ><b>{rating.coach ?? 'A coach'}:</b>
        {[rated(rating), rating.note].filter(Boolean).join('. ')}</span>
    {/if}
    <Button small onclick={begin} aria-label="{rating ? 'Change what you say of' : 'Say how it went,'} {name}"
      >{rating ? 'Change' : 'Say how it went'}</Button>
  </p>
{:else}
  <form class="max-w-prose" onsubmit={keep}>
    <div class="flex flex-wrap items-end gap-x-3 gap-y-1">
      <label class="w-20"
        ><span class="label">Clean</span>
        <input class="input mt-1" inputmode="numeric" bind:value={clean} /></label>
      <label class="w-20"
        ><span class="label">of</span> <input class="input mt-1" inputmode="numeric" bind:value={outOf} /></label>
      <Choice
        label="In a word"
        value={word}
        options={[
          ...Object.entries(ratings).map(([value, text]) => ({ value: value as Rating['word'], text })),
          { value: '' as Rating['word'], text: 'No word' },
        ]}
        onchange={(v) => (word = v)} />
    </div>
    <label class="mt-1 block" for="note{id}"><span class="label">Note</span></label>
    <textarea id="note{id}" class="input mt-1" rows="2" maxlength="2000" bind:value={note}></textarea>
    <Problem text={problem} />
    <div class="mt-2 flex gap-2">
      <Button main small type="submit" disabled={busy}>Keep it</Button>
      <Button quiet small onclick={() => (open = false)}>Cancel</Button>
    </div>
  </form>
{/if}
