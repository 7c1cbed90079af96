<!-- Force and tempo as two ends of one handle, because the bag ties them: move the handle, or say either end. -->
<script lang="ts">
  import { Slider } from 'bits-ui'
  import type { Schemas } from '../api/client'
  import { shownAs } from '../bench/kinds.svelte'

  type Props = {
    ties: Schemas['Tie'][]
    fist: number
    inside: number
    effort: string
    units: 'metric' | 'imperial'
    problem?: string
    onfist: (fist: number) => void
    ontempo: (tempo: number) => void
  }
  let { ties, fist, inside, effort, units, problem = '', onfist, ontempo }: Props = $props()

  const id = $props.id()
  const first = $derived(ties[0]!)
  const last = $derived(ties.at(-1)!)
  const unit = $derived(shownAs('speed', units))
  const force = $derived((fist * unit.factor).toFixed(unit.digits))
  const share = (t: Schemas['Tie']) => (100 * (t.fist - first.fist)) / (last.fist - first.fist)
  function say(end: 'fist' | 'tempo', raw: string) {
    const n = Number(raw.replace(',', '.'))
    if (raw.trim() === '' || !Number.isFinite(n) || n <= 0) return
    if (end === 'fist') onfist(n / unit.factor)
    else ontempo(n)
  }
</script>

<div class="py-1" role="group" aria-label="Force and tempo">
  <div class="flex items-end justify-between gap-3">
    <label class="block"
      ><span class="label">Force, {effort}</span>
      <span class="mt-1 flex items-baseline gap-1"
        ><input
          class="input !min-h-9 !w-20 text-right"
          inputmode="decimal"
          value={force}
          onchange={(e) => say('fist', e.currentTarget.value)} /><span class="text-sm text-soft">{unit.unit}</span
        ></span
      ></label>
    <label class="block text-right"
      ><span class="label">Tempo in the combination</span>
      <span class="mt-1 flex items-baseline gap-1"
        ><input
          class="input !min-h-9 !w-20 text-right"
          inputmode="decimal"
          value={inside.toFixed(0)}
          aria-invalid={problem ? 'true' : undefined}
          aria-describedby="{id}-note"
          onchange={(e) => say('tempo', e.currentTarget.value)} /><span class="text-sm text-soft">/min</span></span
      ></label>
  </div>
  <Slider.Root
    type="single"
    class="relative mt-1 flex h-8 w-full touch-none items-center"
    value={Math.min(last.fist, Math.max(first.fist, fist))}
    min={first.fist}
    max={last.fist}
    step={0.05}
    onValueChange={(v) => {
      if (Math.abs(v - fist) > 0.03) onfist(v)
    }}>
    <span class="h-2 w-full bg-edge"></span>
    <Slider.Thumb
      index={0}
      class="block h-8 w-12 rounded-[3px] border-2 border-ink bg-sheet"
      aria-label="Force and tempo"
      aria-valuetext="{force} {unit.unit}, {inside.toFixed(0)} a minute" />
  </Slider.Root>
  <div class="relative h-9 text-sm text-soft" aria-hidden="true">
    {#each ties.filter((_, i) => i % 2 === 0) as t, i (t.fist)}
      <span
        class="absolute top-0 {i === 0
          ? ''
          : t === last
            ? '-translate-x-full text-right'
            : '-translate-x-1/2 text-center'}"
        style:left="{share(t)}%">{t.inside.toFixed(0)}</span>
    {/each}
    <span class="absolute bottom-0 left-0">softer, slower</span><span class="absolute right-0 bottom-0"
      >harder, quicker</span>
  </div>
  <p id="{id}-note" class="mt-1 text-sm {problem ? 'font-semibold' : 'text-soft'}">
    {problem || 'The bag ties the two together (modelled): struck harder, it comes back sooner.'}
  </p>
</div>
