<!-- A field for a password: the one that holds, or a new one. -->
<script lang="ts">
  type Props = { label: string; value: string; fresh?: boolean; class?: string }
  let { label, value = $bindable(), fresh = false, class: more = '' }: Props = $props()
</script>

<label class="block {more}"
  ><span class="label">{label}</span><input
    class="input mt-1"
    type="password"
    name="password"
    required
    minlength={fresh ? 10 : undefined}
    autocomplete={fresh ? 'new-password' : 'current-password'}
    bind:value /></label>
