<!-- What can be done to a class while it runs. -->
<script lang="ts">
  import type { ClassFloor, Deed } from '../../lib/class/floor.svelte'
  import CrewNow from './CrewNow.svelte'
  import Mixer from './Mixer.svelte'

  let { floor, onhide }: { floor: ClassFloor; onhide: () => void } = $props()
  let mixing = $state(false)
  let crewing = $state(false)
  const face = $derived(floor.face)
  const last = $derived(floor.class?.faces.slice(0, floor.at + 1).findLast((f) => f.block >= 0))
  const press = 'button shrink-0 min-h-16! min-w-16! px-3! text-sm sm:text-base sm:px-4! wall:text-2xl!'
  const paces = $derived(face?.onBag && face.block >= 0)
</script>

{#snippet deed(what: Deed, text: string)}
  <button class={press} onclick={() => floor.deed(what)}>{text}</button>
{/snippet}

<footer
  class="flex shrink-0 flex-wrap items-center gap-2 max-[22.5rem]:flex-nowrap max-[22.5rem]:overflow-x-auto low:flex-nowrap low:overflow-x-auto border-t-2 border-rope px-4 py-2 sm:px-6 low:py-1"
  aria-label="Controls">
  {@render deed('back', 'Back')}
  {@render deed('repeat', 'Again')}
  {@render deed('skip', floor.resting ? 'End the rest' : 'Skip')}
  {@render deed('longer', 'Rest +30 s')}
  {#if paces}
    {@render deed('slower', 'Slower')}
    {@render deed('faster', 'Faster')}
    {@render deed('wild', 'Wild: again later')}
  {/if}
  {#if last && last.tries > 0}
    {@render deed('got', `Got it (${last.got} of ${last.tries})`)}
    {@render deed('failed', 'Not yet')}
  {/if}
  <span class="ml-auto flex gap-2">
    {#if floor.silent}<button class="{press} main" onclick={() => floor.sound()}>Turn the sound on</button>{/if}
    <button class={press} aria-expanded={crewing} onclick={() => (crewing = true)}>Who is here</button>
    <button class={press} aria-expanded={mixing} onclick={() => (mixing = true)}>Sound</button>
  </span>
</footer>
{#if crewing}<CrewNow {floor} onleave={() => (crewing = false)} />{/if}
{#if mixing}<Mixer {floor} {onhide} onleave={() => (mixing = false)} />{/if}
