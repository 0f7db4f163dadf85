import Papa from 'papaparse'
import { RANGES } from '../job/document/ranges.ts'
import { typedNumber, writesCommas } from '../material/typed-units.ts'
import { heightsOf, type TouchedFace } from './heights.ts'

/**
 * How high a face was measured over the bed, mm, as a table of numbers: a row for each row of places from the rear to the front, in it
 * a field for each place from left to right, evenly over all of the piece; a field is empty where there is no piece. Fields parted by
 * commas, semicolons or tabs; numbers with a point or a comma.
 * @throws RangeError with a sentence where it is no such table
 */
export function readHeights(text: string): TouchedFace {
  const table = text.replace(/^\ufeff/, '').trimEnd()
  // Numbers alone do not tell what parts them: a comma does only where nothing else is there for it.
  const delimiter = ['\t', ';'].find((each) => table.includes(each)) ?? ','
  const { data } = Papa.parse<string[]>(table, { skipEmptyLines: true, delimiter })
  const { min, max } = RANGES.heightPlaces
  const columns = data[0]?.length ?? 0
  const rows = data.length
  if (columns < min || columns > max || rows < min || rows > max)
    throw new RangeError(
      `A table of heights has ${min} to ${max} rows of ${min} to ${max} numbers; this has ${rows} of ${columns}.`,
    )
  const comma = writesCommas(data, delimiter)
  const touched = data.flatMap((fields, r) => {
    if (fields.length !== columns)
      throw new RangeError(`Row ${r + 1} has ${fields.length} heights, the first one ${columns}: each place needs one.`)
    return fields.map((field, c) => {
      if (field.trim() === '') return undefined
      const mm = typedNumber(field, comma)
      if (mm === undefined) throw new RangeError(`Row ${r + 1}, place ${c + 1}: “${field.trim()}” is no height in mm.`)
      if (mm < 0)
        throw new RangeError(
          `Row ${r + 1}, place ${c + 1}: ${field.trim()} lies under the bed. Where there is no piece, leave it empty.`,
        )
      return mm
    })
  })
  if (touched.every((mm) => mm === undefined))
    throw new RangeError('There is no height in this table: all of its fields are empty.')
  const face = heightsOf(columns, rows, touched)
  const { min: thinnest, max: thickest } = RANGES.thicknessMm
  if (face.thicknessMm < thinnest || face.thicknessMm > thickest)
    throw new RangeError(
      `Its highest place stands ${face.thicknessMm} mm over the bed: a piece is ${thinnest} to ${thickest} mm thick.`,
    )
  return face
}
