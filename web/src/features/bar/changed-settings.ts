import { burnOrder, burnsRows, type JobDocument } from '@neotaxis/core'
import { pageOf } from '../../processes/table.ts'

/** What a change of material or machine did to the operations, in sentences: what goes with it, and what stayed as it was. */
export function toldOfChange(before: JobDocument, after: JobDocument, name: string): string[] {
  const changed = changedSettings(before, after)
  const kept = burnOrder(after).flatMap((id, i) =>
    after.operations[id].keptFrom === undefined || before.operations[id]?.keptFrom !== undefined
      ? []
      : [`${i + 1} ${pageOf(after.operations[id]).name}`],
  )
  return [
    ...(changed.length > 0 ? [`Settings go with ${name}: ${changed.join('; ')}.`] : []),
    ...(kept.length > 0 ? [`Kept as it was, because it had left its recipe or none is known: ${kept.join(', ')}.`] : []),
  ]
}

/** What operations are set to otherwise than before, in words: “1 Picture: interval 0.127 → 0.1 mm, power 32 → 40 %”. */
export function changedSettings(before: JobDocument, after: JobDocument): string[] {
  const percent = (share: number): string => String(Number((100 * share).toFixed(1)))
  const mm = (value: number): string => String(Number(value.toFixed(4)))
  return burnOrder(after).flatMap((id, i) => {
    const [was, is] = [before.operations[id], after.operations[id]]
    if (!was) return []
    const changes = [
      ...(burnsRows(was) && burnsRows(is) && was.intervalMm !== is.intervalMm
        ? [`interval ${mm(was.intervalMm)} → ${mm(is.intervalMm)} mm`]
        : []),
      ...(was.power !== is.power ? [`power ${percent(was.power)} → ${percent(is.power)} %`] : []),
      ...(was.speedMmS !== is.speedMmS ? [`speed ${mm(was.speedMmS)} → ${mm(is.speedMmS)} mm/s`] : []),
      ...(was.passes !== is.passes ? [`passes ${was.passes} → ${is.passes}`] : []),
    ]
    return changes.length > 0 ? [`${i + 1} ${pageOf(is).name}: ${changes.join(', ')}`] : []
  })
}
