<!-- A measure: a slider and a number for the same value, shown in the gym's unit, kept in SI. Text that is no number, or
     lies outside the limits, is said beside the field and goes no further. -->
<script lang="ts">
  import { Slider } from 'bits-ui'

  type Props = {
    label: string
    value: number
    min: number
    max: number
    most?: number // that may be typed, where it is more than the slider reaches
    step: number
    unit: string
    factor?: number // shown = value × factor
    digits?: number
    note?: string
    problem?: string
    onchange: (value: number) => void
  }
  let {
    label,
    value,
    min,
    max,
    most = max,
    step,
    unit,
    factor = 1,
    digits = 0,
    note = '',
    problem = '',
    onchange,
  }: Props = $props()

  const id = $props.id()
  let text = $state<string | null>(null) // while the field has the focus: an answer that comes late changes nothing under the fingers
  let complaint = $state('')
  const shown = $derived((value * factor).toFixed(digits))
  const wrong = $derived(complaint || problem)
  // The slider keeps to its steps; a value between two of them is shown at the nearer one and is not changed by that.
  const onStep = $derived(
    min +
      Math.min(Math.floor((max - min) / step + 1e-9), Math.round((Math.min(max, Math.max(min, value)) - min) / step)) *
        step,
  )

  function typed(raw: string) {
    text = raw
    const n = Number(raw.replace(',', '.'))
    const range = `${(min * factor).toFixed(digits)} to ${(most * factor).toFixed(digits)} ${unit}`.trim()
    if (raw.trim() === '' || !Number.isFinite(n)) complaint = `Expected a number, ${range}.`
    else if (n < min * factor - 1e-9 || n > most * factor + 1e-9) complaint = `Expected ${range}.`
    else {
      complaint = ''
      onchange(n / factor)
    }
  }

  /** One step up or down, on the grid of steps. */
  function stepped(by: number) {
    const to = Math.min(most, Math.max(min, (Math.round(value / step) + by) * step))
    text = null
    complaint = ''
    if (to !== value) onchange(Number(to.toFixed(6)))
  }
  function left() {
    if (!complaint) text = null
  }
</script>

<div class="grid grid-cols-[1fr_auto] items-center gap-x-3 py-1">
  <label class="label" for={id}>{label}</label>
  <span class="flex items-center gap-1">
    <button type="button" class="step" aria-label="{label}: less" onclick={() => stepped(-1)}>−</button>
    <input
      {id}
      class="input !min-h-9 !w-20 text-right"
      inputmode="decimal"
      value={text ?? shown}
      aria-invalid={wrong ? 'true' : undefined}
      aria-describedby={wrong || note ? `${id}-note` : undefined}
      onfocus={() => (text ??= shown)}
      oninput={(e) => typed(e.currentTarget.value)}
      onblur={left} />
    <button type="button" class="step" aria-label="{label}: more" onclick={() => stepped(1)}>+</button>
    <span class="w-9 text-sm text-soft">{unit}</span>
  </span>
  <Slider.Root
    type="single"
    class="relative col-span-2 flex h-7 w-full touch-none items-center"
    value={onStep}
    {min}
    {max}
    {step}
    onValueChange={(v) => {
      if (Math.abs(v - onStep) < step / 2) return
      text = null
      complaint = ''
      onchange(v)
    }}>
    <span class="h-1 w-full bg-edge"></span>
    <Slider.Range class="absolute h-1 bg-ink" />
    <Slider.Thumb
      index={0}
      class="block size-6 rounded-full border-2 border-ink bg-sheet"
      aria-label={label}
      aria-valuetext={`${shown} ${unit}`} />
  </Slider.Root>
  {#if wrong || note}
    <p id="{id}-note" class="col-span-2 text-sm {wrong ? 'font-semibold' : 'text-soft'}">{wrong || note}</p>
  {/if}
</div>

<style>
  .step {
    min-width: 2.25rem;
    min-height: 2.25rem;
    border: 2px solid var(--soft);
    border-radius: 3px;
    font-weight: 650;
  }
  .step:hover {
    background: var(--shade);
  }
</style>
