<!-- What a measurement says of a bag, how well, and whether it may have been made in another way. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import { ms, type Units } from '../format'
  import Button from '../ui/Button.svelte'
  import { valueOf } from './kinds.svelte'
  import type { Measuring } from './measuring.svelte'

  type Props = { m: Measuring; fit: Schemas['CalibrationFit']; words: Schemas['Tapping']; units: Units }
  let { m, fit, words, units }: Props = $props()
  const value = (v: number) => valueOf(fit.parameter, v, units)
  const spread = $derived(fit.spread === null ? '' : ` ± ${value(fit.spread)}`)
  const worth = $derived(
    fit.assumed
      ? `Starting and stopping by hand is taken to be ${ms(fit.tapError)} off; the force is our guess.`
      : `Your taps scatter by ${ms(fit.tapError)}${fit.residual === null ? '' : `; the fit is off by ${ms(fit.residual)}`}.`,
  )
  const twice = $derived(m.doubt?.reading === 'twice')
</script>

<p class="mt-3 text-lg"><b>{words.parameter}: {value(fit.value)}{spread}</b>, in place of {value(fit.was)}.</p>
<p class="text-sm text-soft">
  {worth}
  {#if fit.outliers > 0}{fit.outliers} of them {fit.outliers === 1 ? 'is' : 'are'} far off and count for less.{/if}
</p>
{#if m.doubt}
  {@const doubt = m.doubt}
  <div class="mt-3 border-l-4 border-brass pl-3" role="alert">
    <p class="font-semibold">{twice ? words.twice : `Did you tap every second one of the ${words.counted} only?`}</p>
    <p>
      Then it is {value(doubt.value)}, closer to the {value(fit.was)} from before, and not {value(fit.value)}.
    </p>
    <div class="mt-1 flex flex-wrap gap-2">
      <Button onclick={() => m.readAs(doubt.reading)}>
        {twice ? 'Yes, both' : 'Yes, every second one'}
      </Button>
      <Button onclick={() => m.readAs('')}>No</Button>
    </div>
  </div>
{/if}
