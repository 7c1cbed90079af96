<!-- What the judged rounds on a bag agree on, where that is not its figure. -->
<script lang="ts">
  import { api, ask, type Schemas } from '../api/client'

  type Props = {
    rig: Schemas['Rig']
    offer: NonNullable<Schemas['Rig']['fromRounds']>
    onkept: (rig: Schemas['Rig']) => void
  }
  let { rig, offer, onkept }: Props = $props()
  let problem = $state('')
  let busy = $state(false)

  async function use() {
    busy = true
    problem = ''
    try {
      onkept(
        await ask(
          api.POST('/api/rigs/{id}/calibrations', {
            params: { path: { id: rig.id } },
            body: { version: rig.version, measured: { method: 'rounds' } },
          }),
        ),
      )
    } catch (e) {
      problem = `${(e as Error).message} Nothing was changed.`
    } finally {
      busy = false
    }
  }
</script>

<div class="mb-4 border-l-4 border-ink pl-3" role="status">
  <p class="text-lg"><strong>{offer.text}</strong></p>
  <button class="button mt-2" disabled={busy} onclick={() => void use()}>Use this figure</button>
  {#if problem}<p class="mt-2 font-semibold" role="alert">{problem}</p>{/if}
</div>
