// Small wrong changes of a source file: a sign, a bound, a constant, a condition, a dropped await, a left-out call.
import ts from 'typescript'

const { SyntaxKind: K } = ts

/** What an operator is turned into. */
const OPERATORS = new Map([
  [K.PlusToken, '-'],
  [K.MinusToken, '+'],
  [K.AsteriskToken, '/'],
  [K.SlashToken, '*'],
  [K.LessThanToken, '<='],
  [K.LessThanEqualsToken, '<'],
  [K.GreaterThanToken, '>='],
  [K.GreaterThanEqualsToken, '>'],
  [K.EqualsEqualsEqualsToken, '!=='],
  [K.ExclamationEqualsEqualsToken, '==='],
  [K.AmpersandAmpersandToken, '||'],
  [K.BarBarToken, '&&'],
  [K.PlusEqualsToken, '-='],
  [K.MinusEqualsToken, '+='],
])
const CALLS = { 'Math.min': 'Math.max', 'Math.max': 'Math.min', 'Math.floor': 'Math.ceil', 'Math.ceil': 'Math.floor' }

/** Whether a plus joins texts; those are messages and names. */
const joinsText = (node) => [node.left, node.right].some((n) => ts.isStringLiteralLike(n) || ts.isTemplateExpression(n))

function changesOf(node, text) {
  const own = text.slice(node.getStart(), node.end)
  if (ts.isBinaryExpression(node)) {
    const to = OPERATORS.get(node.operatorToken.kind)
    if (!to || joinsText(node)) return []
    const { operatorToken: op } = node
    return [{ start: op.getStart(), end: op.end, to, what: `${op.getText()} becomes ${to}` }]
  }
  const whole = (to, what) => [{ start: node.getStart(), end: node.end, to, what }]
  if (ts.isNumericLiteral(node)) {
    const value = Number(node.text)
    const to = Number.isInteger(value) && value < 10 ? value + 1 : value * 1.25
    return whole(String(to), `${own} becomes ${to}`)
  }
  if (node.kind === K.TrueKeyword) return whole('false', 'true becomes false')
  if (node.kind === K.FalseKeyword) return whole('true', 'false becomes true')
  if (ts.isPrefixUnaryExpression(node) && [K.ExclamationToken, K.MinusToken].includes(node.operator))
    return whole(text.slice(node.operand.getStart(), node.operand.end), `${own.slice(0, 30)} without its sign`)
  if (ts.isAwaitExpression(node))
    return whole(`void ${text.slice(node.expression.getStart(), node.expression.end)}`, 'await is dropped')
  if (ts.isConditionalExpression(node)) {
    const [yes, no] = [node.whenTrue, node.whenFalse].map((n) => text.slice(n.getStart(), n.end))
    return whole(`${text.slice(node.condition.getStart(), node.condition.end)} ? ${no} : ${yes}`, '? and : are swapped')
  }
  if (ts.isCallExpression(node) && CALLS[node.expression.getText()]) {
    const { expression: called } = node
    const to = CALLS[called.getText()]
    return [{ start: called.getStart(), end: called.end, to, what: `${called.getText()} becomes ${to}` }]
  }
  if (ts.isExpressionStatement(node) && ts.isCallExpression(node.expression))
    return whole(';', `${own.slice(0, 40)} is left out`)
  if (ts.isIfStatement(node)) {
    const { expression: condition } = node
    return [
      {
        start: condition.getStart(),
        end: condition.end,
        to: 'false',
        what: `if (${condition.getText().slice(0, 40)}) never`,
      },
    ]
  }
  return []
}

const SKIPPED = (node) =>
  ts.isTypeNode(node) || ts.isImportDeclaration(node) || ts.isInterfaceDeclaration(node) || ts.isThrowStatement(node)

/** Every change of a file. @returns { start, end, to, what, line } */
export function mutantsOf(path, text) {
  const source = ts.createSourceFile(path, text, ts.ScriptTarget.Latest, true)
  const found = []
  const walk = (node) => {
    if (SKIPPED(node)) return
    for (const change of changesOf(node, text))
      found.push({ ...change, line: source.getLineAndCharacterOfPosition(change.start).line + 1 })
    ts.forEachChild(node, walk)
  }
  walk(source)
  return found
}
