<!-- What was measured of somebody, as people write it; a field left empty is not measured. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import { length } from '../format'
  import { session } from '../session.svelte'
  import { measured } from './measure'

  type Measured = 'height' | 'reach' | 'eye' | 'mouth' | 'chin'
  let { edited, fields }: { edited: Schemas['Trainee']; fields: Schemas['Field'][] } = $props()
  const imperial = $derived(session.units === 'imperial')
  const shown = (m: number | undefined) =>
    !m ? '' : imperial ? length(m, 'imperial') : String(Math.round(m * 1000) / 10)
  let wrong = $state<Record<string, string>>({})

  function read(f: Schemas['Field'], input: HTMLInputElement) {
    const field = f.field as Measured
    const m = input.value.trim() === '' ? undefined : measured(input.value, session.units)
    const fits = m === undefined || (m >= f.least - 1e-9 && m <= f.most + 1e-9)
    wrong[field] = fits ? '' : `Expected ${length(f.least, session.units)} to ${length(f.most, session.units)}.`
    input.setCustomValidity(wrong[field])
    if (!fits) return
    edited[field] = m
    input.value = shown(m)
  }
</script>

{#each fields as f (f.field)}
  {@const field = f.field as Measured}
  <label class="block">
    <span class="label">{f.label}, {imperial ? 'feet and inches' : 'cm'}, where measured</span>
    <input
      class="input mt-1"
      autocomplete="off"
      placeholder={imperial ? '5 ft 4 in' : '162'}
      aria-invalid={wrong[field] ? 'true' : undefined}
      value={shown(edited[field])}
      oninput={(e) => e.currentTarget.setCustomValidity('')}
      onchange={(e) => read(f, e.currentTarget)} />
    {#if wrong[field]}<span class="mt-1 block text-sm font-semibold" role="alert">{wrong[field]}</span>{/if}
  </label>
{/each}
