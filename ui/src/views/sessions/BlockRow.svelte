<!-- A block as a line whose parts are its controls, with what stands against it. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask, type Schemas } from '../../lib/api/client'
  import { doings } from '../../lib/class/doings.svelte'
  import { onMount } from 'svelte'
  import Part from '../../lib/say/Part.svelte'
  import Pick from '../../lib/say/Pick.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Seconds from './Seconds.svelte'
  import type { Block, Sheet } from './sheet.svelte'
  import { guidances, paces, roles } from '../../lib/labels.gen'
  import { options } from './words'

  type Props = { sheet: Sheet; block: Block; i: number; title: string; remarks: Schemas['Remark'][] }
  let { sheet, block, i, title, remarks }: Props = $props()
  onMount(() => void doings.load().catch(() => {}))
  const library = createQuery(() => ({ queryKey: ['library'], queryFn: () => ask(api.GET('/api/library')) }))
  const drills = $derived(
    (library.data?.entries ?? [])
      .filter((e) => !e.drillId && (!sheet.session?.bag || e.kind === sheet.session.bag))
      .map((e) => ({ value: e.key, text: e.name })),
  )
  const many = $derived(sheet.current?.blocks.length ?? 1)
  const text = $derived(block.activity ? (doings.names.get(block.activity) ?? title) : title)

  /** Another role keeps what it can of the block. */
  function become(role: Block['role']) {
    const { seconds } = block
    const line = block.text || '1-2'
    const thrown = {
      seconds,
      text: line,
      pace: block.pace ?? 'combination',
      guidance: block.guidance ?? 'fading',
    } as const
    if (role === 'off') sheet.swapBlock(i, { role, seconds, activity: block.activity ?? 'skipping' })
    else if (role === 'own') sheet.swapBlock(i, { role, seconds })
    else if (role === 'drill') sheet.swapBlock(i, { role, seconds, drill: drills[0]!.value })
    else if (role === 'counted') sheet.swapBlock(i, { role, ...thrown, times: block.times || 10 })
    else sheet.swapBlock(i, { role, ...thrown })
  }
</script>

<li onfocusin={() => (sheet.block = i)} class="border-b border-rope py-1.5 {sheet.block === i ? 'bg-sheet' : ''}">
  <div class="flex flex-wrap items-baseline gap-x-1.5">
    {#if block.role === 'counted'}
      <Part
        text="{block.times} reps"
        label="Reps"
        figure
        onstep={(by) => sheet.setBlock(i, { times: Math.max(1, (block.times ?? 1) + by) })}>
        <label class="block">
          <span class="label">Reps</span>
          <input
            class="input mt-1"
            inputmode="numeric"
            value={block.times}
            oninput={(e) => {
              const n = Number(e.currentTarget.value)
              if (Number.isInteger(n) && n > 0 && n <= 500) sheet.setBlock(i, { times: n })
            }} />
        </label>
      </Part>
      <span class="text-sm text-soft">about {block.seconds} s</span>
    {:else}
      <Part
        text="{block.seconds} s"
        label="Block length"
        figure
        onstep={(by) => sheet.setBlock(i, { seconds: Math.max(10, block.seconds + 5 * by) })}>
        <Seconds
          label="Block length"
          value={block.seconds}
          least={10}
          onchange={(v) => sheet.setBlock(i, { seconds: v })} />
      </Part>
    {/if}
    <Part text={roles[block.role]} label="What the block is for">
      {#snippet children(close)}
        <Pick
          label="What it is for"
          value={block.role}
          options={options(roles).filter((o) => o.value !== 'drill' || drills.length > 0)}
          onpick={(v) => {
            become(v as Block['role'])
            close()
          }} />
      {/snippet}
    </Part>
    {#if block.role !== 'own'}
      <Part text={text.length > 46 ? `${text.slice(0, 44)}…` : text || '…'} label="What is done">
        {#snippet children(close)}
          {#if block.activity}
            <Pick
              label="What is done"
              value={block.activity}
              options={doings.all.map((d) => ({ value: d.key, text: d.name }))}
              onpick={(v) => {
                sheet.setBlock(i, { activity: v as NonNullable<Block['activity']> })
                close()
              }} />
          {:else if block.drill}
            <Pick
              label="Drill of the library"
              value={block.drill}
              options={drills}
              onpick={(v) => {
                sheet.setBlock(i, { drill: v })
                close()
              }} />
          {:else}
            <label class="block">
              <span class="label">What is thrown</span>
              <input
                class="input mt-1 font-bold"
                spellcheck="false"
                autocomplete="off"
                maxlength="2000"
                value={block.text}
                oninput={(e) => sheet.setBlock(i, { text: e.currentTarget.value })}
                onkeydown={(e) => e.key === 'Enter' && close()} />
            </label>
          {/if}
        {/snippet}
      </Part>
    {/if}
    {#if block.text}
      <Part text={paces[block.pace ?? 'combination']} label="Pace">
        {#snippet children(close)}
          <Pick
            label="Pace"
            value={block.pace ?? 'combination'}
            options={options(paces)}
            onpick={(v) => {
              sheet.setBlock(i, { pace: v as NonNullable<Block['pace']> })
              close()
            }} />
        {/snippet}
      </Part>
      <Part text={guidances[block.guidance ?? 'fading']} label="Calls">
        {#snippet children(close)}
          <Pick
            label="How far it is called"
            value={block.guidance ?? 'fading'}
            options={options(guidances)}
            onpick={(v) => {
              sheet.setBlock(i, { guidance: v as NonNullable<Block['guidance']> })
              close()
            }} />
        {/snippet}
      </Part>
    {/if}
    {#if block.role !== 'own' && block.role !== 'off' && (sheet.block === i || block.tries)}
      <Part text={block.tries ? `${block.tries} tries` : 'tries not counted'} label="Tries">
        {#snippet children(close)}
          <Pick
            label="Mark what comes off"
            value={String(block.tries ?? 0)}
            options={[0, 5, 10, 15, 20].map((n) => ({ value: String(n), text: n ? `of ${n} tries` : 'not counted' }))}
            onpick={(v) => {
              sheet.setBlock(i, { tries: Number(v) })
              close()
            }} />
        {/snippet}
      </Part>
    {/if}
    <span class="ml-auto flex">
      <Button small quiet disabled={i === 0} aria-label="Block {i + 1}: earlier" onclick={() => sheet.moveBlock(i, -1)}
        >↑</Button>
      <Button
        small
        quiet
        disabled={i + 1 === many}
        aria-label="Block {i + 1}: later"
        onclick={() => sheet.moveBlock(i, 1)}>↓</Button>
      <Button small quiet disabled={many === 1} aria-label="Take block {i + 1} out" onclick={() => sheet.removeBlock(i)}
        >✕</Button>
    </span>
  </div>
  {#each remarks as r (r.text)}<p class="border-l-4 border-ink pl-3 text-sm font-semibold">{r.text}</p>{/each}
</li>
