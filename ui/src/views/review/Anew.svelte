<!-- What was changed about a judgement, and judging anew where the plan or the delay was wrong. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { clockTime, ms, shortDay } from '../../lib/format'
  import { verdicts } from '../../lib/labels.gen'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Choice from '../../lib/ui/Choice.svelte'
  import Problem from '../../lib/ui/Problem.svelte'

  type Props = {
    r: Schemas['Review']
    busy: boolean
    problem: string
    onanew: (to: Schemas['Anew']) => void
    onundo: (id: string) => void
  }
  let { r, busy, problem, onanew, onundo }: Props = $props()
  let clock = $state('')
  let tempo = $state('')
  let delay = $state('')
  let reason = $state('')
  let wrong = $state('')
  const kept = $derived(clock || r.keptBy)
  const figure = (text: string) => (text.trim() === '' ? undefined : Number(text.replace(',', '.')))

  function judge(e: SubmitEvent) {
    e.preventDefault()
    const [t, d] = [figure(tempo), figure(delay)]
    wrong = ''
    if (t !== undefined && !(t > 0)) wrong = 'Expected a tempo in strikes a minute.'
    else if (d !== undefined && !(d >= 0 && d <= 1000)) wrong = 'Expected a delay from 0 to 1000 ms.'
    if (wrong) return
    onanew({
      ...(kept === r.keptBy ? {} : { clock: kept as NonNullable<Schemas['Anew']['clock']> }),
      ...(t === undefined ? {} : { tempo: t }),
      ...(d === undefined ? {} : { delayUs: Math.round(1000 * d) }),
      ...(reason.trim() ? { reason: reason.trim() } : {}),
    })
  }
</script>

<details class="seam mt-8 pt-3" open={r.corrections.some((c) => !c.undone)}>
  <summary class="cursor-pointer font-bold">Wrong call?</summary>
  {#if r.corrections.length > 0}
    <ul class="mt-2">
      {#each r.corrections as c (c.id)}
        <li
          class="flex flex-wrap items-center gap-x-3 border-b border-rope py-1.5 {c.undone
            ? 'text-soft line-through'
            : ''}">
          <span>
            {c.coach}, {shortDay(c.at, session.zone)} at {clockTime(c.at, session.zone)}:
            {c.strike == null
              ? `re-judged${c.reason ? `, ${c.reason}` : ''}. Before: ${c.was || 'not judged'}`
              : `strike ${c.strike + 1} is ${verdicts[c.verdict ?? '']}.`}
          </span>
          {#if !c.undone}<Button quiet small disabled={busy} onclick={() => onundo(c.id)}>Undo this</Button>{/if}
        </li>
      {/each}
    </ul>
  {/if}
  <p class="mt-2 max-w-prose text-soft">
    Correct a single strike above, where you pick it. If the tempo or the delay was wrong, re-judge the whole round; the
    present judgement is kept here.
  </p>
  <form class="mt-2 flex flex-wrap items-end gap-x-4 gap-y-2" onsubmit={judge}>
    <Choice
      label="Who sets the time"
      value={kept}
      options={[
        { value: 'bag', text: 'The bag' },
        { value: 'beat', text: 'The beat' },
      ]}
      onchange={(v) => (clock = v)} />
    <label class="w-36"
      ><span class="label">Tempo that was asked</span>
      <input class="input mt-1" inputmode="decimal" placeholder={String(Math.round(r.run.tempo))} bind:value={tempo} />
    </label>
    <label class="w-36"
      ><span class="label">Delay of the device, ms</span>
      <input
        class="input mt-1"
        inputmode="decimal"
        placeholder={r.offsetKept ? 'as it is' : ms(r.offset)}
        bind:value={delay} />
    </label>
    <label class="min-w-48 flex-1"
      ><span class="label">Why</span> <input class="input mt-1" maxlength="400" bind:value={reason} /></label>
    <Button type="submit" disabled={busy}>Re-judge it</Button>
  </form>
  <Problem text={wrong || problem} />
</details>
