<!-- What was measured of somebody, in the gym's unit; a field left empty is not measured. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import { session } from '../session.svelte'

  type Measured = 'height' | 'reach' | 'eye' | 'mouth' | 'chin'
  let { edited, fields }: { edited: Schemas['Trainee']; fields: Schemas['Field'][] } = $props()
  const unit = $derived(
    session.units === 'imperial'
      ? { name: 'inches', factor: 1 / 0.0254, digits: 1 }
      : { name: 'centimetres', factor: 100, digits: 0 },
  )
  const shown = (m: number | undefined) => (m ? (m * unit.factor).toFixed(unit.digits) : '')
  const metres = (text: string) => (text === '' ? undefined : Number(text) / unit.factor)
</script>

{#each fields as f (f.field)}
  {@const field = f.field as Measured}
  <label class="block">
    <span class="label">{f.label} in {unit.name}, where measured</span>
    <input
      class="input mt-1"
      type="number"
      step="any"
      min={(f.least * unit.factor).toFixed(0)}
      max={(f.most * unit.factor).toFixed(0)}
      value={shown(edited[field])}
      onchange={(e) => (edited[field] = metres(e.currentTarget.value))} />
  </label>
{/each}
