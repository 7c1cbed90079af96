<!-- Unforeseeable cues on top of a drill: a defence that is called, or an imagined attack that is named. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import Choice from './Choice.svelte'
  import Field from './Field.svelte'

  type Cues = Schemas['Cues']
  type Props = { cues: Cues | undefined; problem?: string; onchange: (cues: Cues | undefined) => void }
  let { cues, problem = '', onchange }: Props = $props()

  const kind = $derived(!cues ? 'none' : cues.attacks?.length ? 'attacks' : 'moves')
  const defences = ['roll lead', 'roll rear', 'slip lead', 'slip rear', 'duck', 'pull']
  const begin: Record<string, Cues | undefined> = {
    none: undefined,
    moves: { moves: ['roll lead', 'roll rear'], least: 3, mean: 7 },
    attacks: {
      attacks: [
        { name: 'jab', answer: 'slip rear - 2' },
        { name: 'cross', answer: 'slip lead - 3' },
        { name: 'lead hook', answer: 'duck - 3' },
      ],
      least: 3,
      mean: 7,
    },
  }
  const toggle = (move: string) => {
    const now = cues?.moves ?? []
    const next = now.includes(move) ? now.filter((m) => m !== move) : [...now, move]
    if (cues && next.length > 0) onchange({ ...cues, moves: next })
  }
  const attack = (i: number, change: Partial<Schemas['Attack']>) =>
    cues && onchange({ ...cues, attacks: (cues.attacks ?? []).map((a, k) => (k === i ? { ...a, ...change } : a)) })
</script>

<Choice
  label="Surprise"
  value={kind}
  options={[
    { value: 'none', text: 'None' },
    { value: 'moves', text: 'A defence is called' },
    { value: 'attacks', text: 'An attack is named' },
  ]}
  onchange={(v) => onchange(begin[v])} />
{#if cues}
  {#if kind === 'moves'}
    <div class="flex flex-wrap gap-1 py-1" role="group" aria-label="What is called">
      {#each defences as m (m)}
        <button
          class="button !min-h-9 !px-2 !py-0 text-sm {cues.moves?.includes(m) ? '!bg-ink !text-ground' : ''}"
          aria-pressed={cues.moves?.includes(m) ?? false}
          onclick={() => toggle(m)}>{m}</button>
      {/each}
    </div>
    <Choice
      label="Then counters"
      value={cues.free ? String(cues.free) : cues.counters?.length ? 'set' : 'none'}
      options={[
        { value: 'none', text: 'None' },
        { value: 'set', text: 'Set' },
        { value: '1', text: 'One free' },
        { value: '2', text: 'Two free' },
        { value: '3', text: 'Three free' },
      ]}
      onchange={(v) => {
        const { counters: _, free: __, ...rest } = cues!
        onchange(v === 'set' ? { ...rest, counters: ['2', '3-2'] } : v === 'none' ? rest : { ...rest, free: Number(v) })
      }} />
    {#if cues.counters?.length}<label class="block py-1"
        ><span class="label">Set counters, divided by a semicolon</span>
        <input
          class="input mt-1"
          value={cues.counters.join('; ')}
          onchange={(e) => {
            const list = e.currentTarget.value
              .split(';')
              .map((t) => t.trim())
              .filter(Boolean)
            if (list.length > 0) onchange({ ...cues!, counters: list })
          }} /></label
      >{/if}
  {:else}
    {#each cues.attacks ?? [] as a, i (i)}
      <div class="grid grid-cols-[1fr_1.4fr] gap-2 py-1">
        <label class="block"
          ><span class="label">Called</span><input
            class="input mt-1"
            value={a.name}
            maxlength="40"
            onchange={(e) => attack(i, { name: e.currentTarget.value })} /></label>
        <label class="block"
          ><span class="label">Answered by</span><input
            class="input mt-1"
            value={a.answer}
            maxlength="100"
            onchange={(e) => attack(i, { answer: e.currentTarget.value })} /></label>
      </div>
    {/each}
  {/if}
  <Field
    label="Seen coming so long before"
    value={cues.lead || 1}
    min={0.3}
    max={3}
    step={0.1}
    unit="s"
    digits={1}
    onchange={(lead) => onchange({ ...cues, lead })} />
  <Field
    label="Least gap"
    value={cues.least}
    min={0.5}
    max={20}
    step={0.5}
    unit="s"
    digits={1}
    onchange={(least) => onchange({ ...cues, least, mean: Math.max(cues.mean, least + 1) })} />
  <Field
    label="Gap on the mean"
    value={cues.mean}
    min={1.5}
    max={40}
    step={0.5}
    unit="s"
    digits={1}
    onchange={(mean) => onchange({ ...cues, mean })}
    note="Never at even gaps, and never the same one twice running." />
  {#if problem}<p class="border-l-4 border-ink pl-3 text-sm font-semibold" role="alert">{problem}</p>{/if}
{/if}
