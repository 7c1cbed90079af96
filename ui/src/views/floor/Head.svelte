<!-- Which round it is, and how long to its bell. -->
<script lang="ts">
  import { countdown } from '../../lib/format'
  import type { ClassFloor } from '../../lib/class/floor.svelte'

  let { floor }: { floor: ClassFloor } = $props()
  const big = 'button min-h-16! min-w-16! wall:min-h-24! wall:px-8! wall:text-3xl!'
  const name = $derived(floor.resting ? (floor.block?.name ?? '') : (floor.face?.name ?? ''))
  const emphasis = $derived(floor.resting ? '' : (floor.face?.emphasis ?? ''))
</script>

<header class="flex items-center gap-x-4 px-4 pt-3 sm:px-6 low:pt-1 max-[26rem]:flex-wrap">
  <div class="min-w-0 max-[26rem]:basis-full">
    <h1 class="text-lg leading-tight font-bold sm:text-3xl wall:text-5xl">
      {floor.resting ? `Before ${name.charAt(0).toLowerCase() + name.slice(1)}` : name}
    </h1>
    {#if emphasis && emphasis !== name}<p class="truncate text-soft sm:text-xl wall:text-3xl">{emphasis}</p>{/if}
  </div>
  <p
    class="figure ml-auto text-6xl sm:text-8xl low:text-5xl wall:text-[11rem]"
    role="timer"
    aria-label="left to the bell">
    {countdown(floor.bell)}
  </p>
  <button class={big} onclick={() => floor.pause()}>{floor.phase === 'paused' ? 'Go on' : 'Pause'}</button>
  <button class={big} onclick={() => floor.askToEnd()}>{floor.asking ? 'End now' : 'End'}</button>
</header>
