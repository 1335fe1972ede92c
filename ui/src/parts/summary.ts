/** The present values of a closed fold's fields in one line. */
import type { Views, Words } from '../api/client'

type Field = Views['FieldView']

/** "45°", "leg 1 1/2 in"; empty for a field at its default. */
function value(field: Field): Words {
  if (field.control === 'angle') return field.text ? [`${field.text}°`] : []
  if (field.control === 'choice') {
    const chosen = field.choices.find((choice) => choice.key === field.text)
    return chosen ? [chosen.label.length < 5 ? `${field.label.toLowerCase()}: ${chosen.label}` : chosen.label] : []
  }
  if (field.shown) return [`${field.label.toLowerCase()} `, field.shown]
  return field.text ? [`${field.label.toLowerCase()} ${field.text}`] : []
}

export function summary(fields: Field[]): Words {
  const told = fields.map(value).filter((words) => words.length)
  if (!told.length) return fields[0]?.empty ? [fields[0].empty] : []
  return told.flatMap((words, k) => (k ? [' · ', ...words] : words))
}
