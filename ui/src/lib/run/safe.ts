/** A second place for what is not sent yet. What a page writes to localStorage lies in the browser's memory for seconds, and is gone if the browser
 * is killed or the battery is empty; what is written here is on the disk once it is written. */

const name = 'melodromos-unsent'
const table = 'waiting'
type Row = { key: string; text: string | null; rev: number } // text is null once all of it was sent

let opened: Promise<IDBDatabase | null> | null = null
const open = () =>
  (opened ??= new Promise((done) => {
    try {
      const asked = indexedDB.open(name, 1)
      asked.onupgradeneeded = () => asked.result.createObjectStore(table, { keyPath: 'key' })
      asked.onsuccess = () => done(asked.result)
      asked.onerror = asked.onblocked = () => done(null)
    } catch {
      done(null) // a browser that keeps nothing: localStorage alone has to do
    }
  }))

const due = new Map<string, Row>() // the newest of each that is not written yet
let writing = false

async function write() {
  if (writing) return
  writing = true
  try {
    const db = await open()
    while (db && due.size > 0) {
      const rows = [...due.values()]
      due.clear()
      await new Promise<void>((done) => {
        const change = db.transaction(table, 'readwrite', { durability: 'strict' })
        for (const row of rows)
          if (row.text === null) change.objectStore(table).delete(row.key)
          else change.objectStore(table).put(row)
        change.oncomplete = change.onerror = change.onabort = () => done()
      })
    }
  } catch {
    opened = null // the browser has closed it: the next change opens it anew, and carries all that waits
  } finally {
    writing = false
  }
}

/** Keeps a text under a key, or forgets it where it is null; rev counts its changes. */
export function keepSafe(key: string, text: string | null, rev: number) {
  due.set(key, { key, text, rev })
  void write()
}

/** Puts back into localStorage what was written here and did not outlive the browser there. */
export async function restoreSafe(): Promise<void> {
  const db = await open()
  if (!db) return
  const rows = await new Promise<Row[]>((done) => {
    const asked = db.transaction(table).objectStore(table).getAll()
    asked.onsuccess = () => done(asked.result as Row[])
    asked.onerror = () => done([])
  })
  for (const row of rows) {
    if (row.text === null || revOf(localStorage.getItem(row.key)) >= row.rev) continue
    try {
      localStorage.setItem(row.key, row.text)
    } catch {
      // A full store: it stays here, and is tried again the next time.
    }
  }
}

function revOf(text: string | null): number {
  try {
    return (JSON.parse(text ?? '') as { rev?: number }).rev ?? 0
  } catch {
    return -1
  }
}
