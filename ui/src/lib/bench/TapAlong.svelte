<!-- Tapping along with a bag that was struck: the first tap is the strike. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import Button from '../ui/Button.svelte'
  import type { Measuring } from './measuring.svelte'

  let { m, words }: { m: Measuring; words: Schemas['Tapping'] } = $props()
  const told = $derived(m.strikes.filter((s) => s.length > 0))
  const along = (s: number[], t: number) => `${(100 * (t - s[0]!)) / Math.max(3, s.at(-1)! - s[0]!)}%`

  function press(e: PointerEvent & { currentTarget: HTMLElement }) {
    e.preventDefault()
    e.currentTarget.focus()
    m.tap(e.timeStamp / 1000)
  }
  function keys(e: KeyboardEvent) {
    if (e.key === ' ' && !e.repeat) m.tap(e.timeStamp / 1000)
    else if (e.key === 'Enter') m.nextStrike()
    else return
    e.preventDefault()
  }
</script>

<p class="mt-2 text-sm">
  {words.how} Two strikes with ten taps each are enough. Tap with Space; Enter, or three quiet seconds, starts the next strike.
</p>
<Button main class="mt-2 min-h-20 w-full text-xl" onpointerdown={press} onkeydown={keys}>
  {m.last.length === 0 ? 'Tap with the strike' : `Tap ${words.counted} (${m.last.length - 1})`}
</Button>
<ol class="mt-2">
  {#each told as s, i (i)}
    <li class="relative h-6 border-b border-rope" aria-label="Strike {i + 1}: {s.length - 1} {words.counted}">
      {#each s as t, k (k)}
        <span class="absolute bottom-0 w-0.5 {k === 0 ? 'h-5 bg-strike' : 'h-3.5 bg-brass'}" style:left={along(s, t)}
        ></span>
      {/each}
    </li>
  {/each}
</ol>
