// Lists every text of the interface by its file, to be read from top to bottom: what stands between tags, what attributes say, and what a
// script writes. Run it with npm run words.
import { readdirSync, readFileSync } from 'node:fs'
import { parse } from 'svelte/compiler'
import ts from 'typescript'

const said = new Set(['label', 'title', 'text', 'name', 'note', 'aria-label', 'placeholder', 'alt', 'under', 'own'])
const speaks = (text) => /[A-Za-z]{2}/.test(text) && (/\s/.test(text.trim()) || /^[A-Z]/.test(text.trim()))
const plain = (text) => text.replace(/\s+/g, ' ').trim()

function fromScript(code, found) {
  const visit = (n) => {
    if (ts.isImportDeclaration(n) || ts.isTypeNode(n) || ts.isElementAccessExpression(n)) return
    const raw = ts.isStringLiteral(n) || ts.isNoSubstitutionTemplateLiteral(n) ? n.text : null
    if (raw !== null && speaks(raw)) found.push(plain(raw))
    if (ts.isTemplateExpression(n)) {
      const text = n.head.text + n.templateSpans.map((s) => `{${s.expression.getText()}}` + s.literal.text).join('')
      if (speaks(text.replace(/\{[^}]*\}/g, ''))) found.push(plain(text))
      n.templateSpans.forEach((s) => visit(s.expression))
      return
    }
    ts.forEachChild(n, visit)
  }
  visit(ts.createSourceFile('x.ts', code, ts.ScriptTarget.Latest, true))
}

/** The texts of a fragment: neighbours run on into one. */
function fromMarkup(node, code, found) {
  const run = []
  const flush = () => {
    const text = plain(run.splice(0).join(''))
    if (/[A-Za-z]{2}/.test(text.replace(/\{[^}]*\}/g, ''))) found.push(text)
  }
  for (const n of node?.nodes ?? []) {
    if (n.type === 'Text') run.push(n.data)
    else if (n.type === 'ExpressionTag') {
      const e = code.slice(n.expression.start, n.expression.end)
      if (!/['"`]/.test(e)) run.push(`{${plain(e)}}`)
      else {
        run.push('{…}')
        fromScript(`(${e})`, found)
      }
    } else {
      const inline = n.type === 'RegularElement' && ['b', 'strong', 'span', 'em', 'a'].includes(n.name)
      if (!inline) flush()
      for (const a of n.attributes ?? []) {
        if (a.type !== 'Attribute' || (a.name !== 'options' && !said.has(a.name) && !/^on/.test(a.name))) continue
        const parts = Array.isArray(a.value) ? a.value : [a.value]
        if (parts.length === 1 && parts[0]?.type === 'ExpressionTag')
          fromScript(`(${code.slice(parts[0].expression.start, parts[0].expression.end)})`, found)
        else if (!/^on/.test(a.name)) {
          const text = parts
            .map((p) =>
              p?.type === 'Text' ? p.data : p ? `{${code.slice(p.expression.start, p.expression.end)}}` : '',
            )
            .join('')
          if (/[A-Za-z]{2}/.test(text)) found.push(plain(text))
        }
      }
      for (const part of [n.fragment, n.consequent, n.alternate, n.body, n.fallback, n.pending, n.then, n.catch])
        fromMarkup(part, code, found)
    }
  }
  flush()
}

const files = readdirSync('src', { recursive: true }).filter((f) => /\.(svelte|ts)$/.test(f))
for (const name of files.sort()) {
  const file = `src/${name}`
  if (/\.gen\.ts$|modules\.ts$/.test(file)) continue
  const code = readFileSync(file, 'utf8')
  const found = []
  if (file.endsWith('.svelte')) {
    const tree = parse(code, { modern: true })
    if (tree.instance) fromScript(code.slice(tree.instance.content.start, tree.instance.content.end), found)
    fromMarkup(tree.fragment, code, found)
  } else fromScript(code, found)
  const texts = [...new Set(found)].filter(
    (t) => !/^(bg-|text-|!|M\{|#\/|\.?\/|rotate|translate|prefers|document)/.test(t),
  )
  if (texts.length > 0) console.log(`\n${file.replace('src/', '')}\n` + texts.map((t) => `  ${t}`).join('\n'))
}
