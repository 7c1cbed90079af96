<!-- A drill as a sentence whose parts are its controls. What stands in the way is said in it, with remedies to press. -->
<script lang="ts">
  import type { Snippet } from 'svelte'
  import type { Schemas } from '../api/client'
  import Knobs from '../drills/Knobs.svelte'
  import type { Patch } from '../drills/patch'
  import { keysOf } from './keys'
  import Part from './Part.svelte'
  import { Stepping } from './stepping.svelte'

  type Knob = Schemas['Knob']
  type Props = {
    said: Schemas['Piece'][]
    knobs: Knob[]
    pending: boolean
    label: string
    onpatch: (patch: Patch) => void
    refused?: (field: string) => string
    written?: (knob: Knob, text: string, value: string) => string
    instead?: Snippet<[Knob]>
    replaced?: string
    after?: Snippet<[Knob]>
  }
  let { said, knobs, pending, label, onpatch, refused, written, instead, replaced = '', after }: Props = $props()
  const stepping = new Stepping(
    () => pending,
    (patch) => onpatch(patch),
  )
  const of = (piece: Schemas['Piece']) =>
    piece.fields.flatMap((f) => {
      const knob = knobs.find((k) => k.field === f)
      return knob ? [knob] : []
    })
  const keys = $derived(keysOf(said.map((p) => p.fields[0] ?? '')))
  const names = (list: Knob[]) => list.map((k) => k.label).join(', ')
  let told = $state('')

  function step(knob: Knob, by: number) {
    told = `${knob.label} ${stepping.by(knob, by)}`
  }
</script>

<div
  class="text-[1.3rem] leading-[2.1rem] text-pretty max-sm:text-lg max-sm:leading-[2.9rem]"
  role="group"
  aria-label={label}
  aria-busy={pending}>
  {#each said as piece, i (keys[i])}
    {@const list = of(piece)}
    {@const first = list[0]}
    {#if first}
      <Part
        text={stepping.written(first, piece.text)}
        label={names(list)}
        figure={first.quantity !== 'words'}
        onstep={first.taken.length > 0 ? undefined : (by) => step(first, by)}>
        <Knobs knobs={list} {onpatch} {refused} {written} {instead} {replaced} {after} />
      </Part>
    {:else if Object.keys(piece.with).length > 0}
      <button type="button" class="part remedy" onclick={() => onpatch(piece.with)}>{piece.text}</button>
    {:else if piece.wrong}
      <strong class="text-strike" role="status">{piece.text}</strong>
    {:else}
      {piece.text}
    {/if}
  {/each}
</div>
<p class="sr-only" aria-live="polite">{told}</p>
