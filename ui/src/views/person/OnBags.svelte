<!-- Where somebody stands on each kind of bag, and what comes next there. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { directions } from '../../lib/labels.gen'
  import { kindName, kinds } from '../../lib/bench/kinds.svelte'
  import { percent } from '../../lib/format'
  import RungStrip from '../../lib/people/RungStrip.svelte'
  import Button from '../../lib/ui/Button.svelte'

  type Proposal = Schemas['Proposal']
  type Props = { id: string; bags: Proposal[]; busy: boolean; onrun: (p: Proposal) => void }
  let { id, bags, busy, onrun }: Props = $props()
  const told = (b: Proposal) =>
    [
      directions[b.move],
      ...(b.level == null ? [] : [`level ${b.level.toFixed(1)}`]),
      ...(b.clean == null ? [] : [`expect ${percent(b.clean)} clean`]),
    ].join(', ')
</script>

<section class="seam mt-8 pt-3" aria-labelledby="bags">
  <h2 id="bags" class="text-xl font-bold">On each bag</h2>
  <ul class="mt-1">
    {#each bags as b (b.kind)}
      <li class="grid items-center gap-x-6 gap-y-1 border-b border-rope py-2.5 sm:grid-cols-[11rem_1fr_auto]">
        <a
          class="no-underline"
          href="#/people/{id}/ladder/{b.kind}"
          aria-label="The ladder on the {kinds.of(b.kind).name}: {kindName(b.kind)}, {b.rigName}">
          <RungStrip of={b.of} standing={b.standing} at={b.index} />
          <span class="text-sm text-soft">{kindName(b.kind)}, {b.rigName}</span>
        </a>
        <div>
          <p><b>{b.name}</b> <span class="text-soft">{told(b)}</span></p>
          <p class="text-sm text-soft">{b.why}</p>
        </div>
        <Button disabled={!!b.barred || busy} onclick={() => onrun(b)} aria-label="Run {b.name} on the {b.rigName}"
          >Run</Button>
      </li>
    {/each}
  </ul>
</section>
