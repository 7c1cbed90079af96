<!-- What is to be said of a thing that is being changed: that it was left unsaved before, or was changed on another screen meanwhile. -->
<script lang="ts" generics="T">
  import Meanwhile from './Meanwhile.svelte'
  import Since from './Since.svelte'

  type Row = { name: string; text: string }
  type Props = {
    since: Date | null
    mine: () => T
    theirs: T | null
    rows: (thing: T) => Row[] | Promise<Row[]> // what it says, for a look at two of them
    ondrop: () => void
    onmine: () => void
    ontheirs: () => void
  }
  let { since, mine, theirs, rows, ondrop, onmine, ontheirs }: Props = $props()
</script>

<Since {since} {ondrop} />
<Meanwhile shown={theirs !== null} mine={() => rows(mine())} theirs={() => rows(theirs!)} {onmine} {ontheirs} />
