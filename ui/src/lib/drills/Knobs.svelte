<!-- What can be set of a drill on its bag, as the core lists it. -->
<script lang="ts">
  import type { Snippet } from 'svelte'
  import type { Schemas } from '../api/client'
  import { shownAs } from '../bench/kinds.svelte'
  import { session } from '../session.svelte'
  import Button from '../ui/Button.svelte'
  import Choice from '../ui/Choice.svelte'
  import Field from '../ui/Field.svelte'
  import { patchOf, type Patch } from './patch'

  type Knob = Schemas['Knob']
  type Props = {
    knobs: Knob[]
    /** What was refused of a field, in words. */
    refused?: (field: string) => string
    /** How an option is written, where the core's text is not all. */
    written?: (knob: Knob, text: string, value: string) => string
    /** What stands in place of a knob, or after it. */
    instead?: Snippet<[Knob]>
    replaced?: string
    after?: Snippet<[Knob]>
    onpatch: (patch: Patch) => void
  }
  let { knobs, refused, written, instead, replaced = '', after, onpatch }: Props = $props()

  const options = (k: Knob) =>
    k.options.map((o) => ({ value: o.value, text: written ? written(k, o.text, o.value) : o.text }))
  const taken = (k: Knob, value: string) => k.options.find((o) => o.value === value)!.with
  function toggle(k: Knob, value: string) {
    const next = k.taken.includes(value) ? k.taken.filter((v) => v !== value) : [...k.taken, value]
    if (next.length > 0) onpatch(patchOf(k.field, next))
  }
  const digits = (k: Knob) => (k.quantity === 'moments' ? { digits: Number.isInteger(k.step * 10) ? 1 : 2 } : {})
</script>

{#each knobs as k (k.field)}
  {#if instead && k.field === replaced}
    {@render instead(k)}
  {:else if k.taken.length > 0}
    <p class="label mb-1">{k.label}</p>
    <div class="flex flex-wrap gap-1 py-1" role="group" aria-label={k.label}>
      {#each k.options as o (o.value)}
        <Button
          small
          class={k.taken.includes(o.value) ? '!bg-ink !text-ground' : ''}
          aria-pressed={k.taken.includes(o.value)}
          onclick={() => toggle(k, o.value)}>{o.text}</Button>
      {/each}
    </div>
  {:else if k.quantity === 'words'}
    <Choice label={k.label} value={k.value} options={options(k)} note={k.note} onchange={(v) => onpatch(taken(k, v))} />
  {:else}
    <Field
      label={k.label}
      value={k.figure}
      min={k.least}
      max={k.most}
      most={k.typed}
      step={k.step}
      {...shownAs(k.quantity, session.units)}
      {...digits(k)}
      problem={refused?.(k.field) ?? ''}
      note={k.note}
      onchange={(v) => onpatch(patchOf(k.field, k.quantity === 'count' ? Math.round(v) : v, k.with))} />
  {/if}
  {@render after?.(k)}
{/each}
