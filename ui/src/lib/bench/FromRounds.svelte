<!-- What the judged rounds on a bag agree on, where that is not its figure. -->
<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { Act } from '../act.svelte'
  import { api, ask, type Schemas } from '../api/client'
  import Button from '../ui/Button.svelte'
  import Problem from '../ui/Problem.svelte'

  type Props = {
    rig: Schemas['Rig']
    offer: NonNullable<Schemas['Rig']['fromRounds']>
    onkept: (rig: Schemas['Rig']) => void
  }
  let { rig, offer, onkept }: Props = $props()
  const act = new Act(useQueryClient())

  async function use() {
    const body = { version: rig.version, measured: { method: 'rounds' as const } }
    const at = { params: { path: { id: rig.id } }, body }
    const work = () => ask(api.POST('/api/rigs/{id}/calibrations', at))
    const kept = await act.do('use', work, { unchanged: 'Nothing was changed.' })
    if (kept) onkept(kept)
  }
</script>

<div class="mb-4 border-l-4 border-ink pl-3" role="status">
  <p class="text-lg"><strong>{offer.text}</strong></p>
  <Button class="mt-2" disabled={!!act.busy} onclick={() => void use()}>Use this figure</Button>
  <Problem text={act.problem} />
</div>
