// Reads an iCalendar file and gives its events with when they are held, as far as is asked: [from, to] in ISO 8601.
import { readFileSync, writeSync } from 'node:fs'
import ICAL from 'ical.js'

const text = readFileSync(0).toString()
const [from, to] = process.argv.slice(2)
const calendar = new ICAL.Component(ICAL.parse(text))
for (const zone of calendar.getAllSubcomponents('vtimezone')) ICAL.TimezoneService.register(new ICAL.Timezone(zone))
const events = calendar.getAllSubcomponents('vevent').map((component) => {
  const e = new ICAL.Event(component)
  const held = []
  if (e.isRecurring()) {
    const each = e.iterator()
    for (let next = each.next(); next && held.length < 500; next = each.next()) {
      const at = next.toJSDate().toISOString()
      if (at >= to) break
      if (at >= from) held.push(at)
    }
  } else held.push(e.startDate.toJSDate().toISOString())
  return {
    uid: e.uid,
    name: e.summary,
    text: e.description ?? '',
    minutes: e.duration.toSeconds() / 60,
    sequence: e.sequence ?? 0,
    held,
  }
})
const lines = text.split('\r\n').map((l) => Buffer.byteLength(l))
writeSync(
  1,
  JSON.stringify({
    name: calendar.getFirstPropertyValue('x-wr-calname'),
    version: calendar.getFirstPropertyValue('version'),
    longest: Math.max(...lines),
    bare: /[^\r]\n/.test(text),
    events,
  }),
)
