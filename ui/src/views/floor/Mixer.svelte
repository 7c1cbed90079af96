<!-- How loud each sort of sound is, and whether there is sound alone or picture alone. -->
<script lang="ts">
  import { channels } from '../../lib/labels.gen'
  import type { ClassFloor } from '../../lib/class/floor.svelte'
  import { mixSteps, nearestStep, setMix, type Channel } from '../../lib/run/loudness'
  import Button from '../../lib/ui/Button.svelte'
  import Choice from '../../lib/ui/Choice.svelte'
  import Over from '../../lib/ui/Over.svelte'

  let { floor, onhide, onleave }: { floor: ClassFloor; onhide: () => void; onleave: () => void } = $props()
  function set(of: Channel, to: number) {
    floor.setMix({ ...floor.mix, [of]: to })
    setMix(floor.mix)
  }
</script>

<Over title="Sound" {onleave}>
  {#each Object.keys(channels) as Channel[] as name (name)}
    <Choice
      label={channels[name]}
      value={nearestStep(floor.mix[name])}
      options={mixSteps}
      onchange={(v) => set(name, v)} />
  {/each}
  <div class="mt-4 flex flex-wrap gap-2">
    <Button aria-pressed={floor.muted} onclick={() => floor.mute()}
      >{floor.muted ? 'Sound and picture' : 'Picture only'}</Button>
    <Button
      onclick={() => {
        onleave()
        onhide()
      }}>Sound only</Button>
    <Button main onclick={onleave}>Done</Button>
  </div>
</Over>
