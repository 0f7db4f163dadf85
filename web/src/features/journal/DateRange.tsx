import { AdapterDayjs } from '@mui/x-date-pickers/AdapterDayjs'
import { DatePicker } from '@mui/x-date-pickers/DatePicker'
import { LocalizationProvider } from '@mui/x-date-pickers/LocalizationProvider'
import dayjs from 'dayjs'
import { Row } from '../../parts/Row.tsx'

/** Days as the address says them: “2026-11-27”; empty where none is named. */
export interface Days {
  readonly from: string
  readonly until: string
}

const DAY = 'YYYY-MM-DD'

/** What the server is asked for: moments from the first day's begin to the last day's end, in the time of this place. */
export function momentsOf({ from, until }: Days): { readonly from?: string; readonly until?: string } {
  const first = dayjs(from, DAY)
  const last = dayjs(until, DAY)
  return {
    ...(from && first.isValid() && { from: first.startOf('day').toISOString() }),
    ...(until && last.isValid() && { until: last.add(1, 'day').startOf('day').toISOString() }),
  }
}

/** A range of days; either end may be left open. */
export default function DateRange({ days, onDays }: { readonly days: Days; readonly onDays: (days: Days) => void }) {
  const field = (label: string, key: keyof Days) => (
    <DatePicker
      label={label}
      value={days[key] ? dayjs(days[key], DAY) : null}
      onChange={(value) => {
        if (value === null) onDays({ ...days, [key]: '' })
        else if (value.isValid() && value.year() > 2000) onDays({ ...days, [key]: value.format(DAY) })
      }}
      {...(key === 'until' && days.from && { minDate: dayjs(days.from, DAY) })}
      {...(key === 'from' && days.until && { maxDate: dayjs(days.until, DAY) })}
      slotProps={{ textField: { size: 'small', sx: { width: 168 } }, field: { clearable: true } }}
    />
  )
  return (
    <LocalizationProvider dateAdapter={AdapterDayjs} adapterLocale={navigator.language.toLowerCase()}>
      <Row align="stretch" gap="room">
        {field('From', 'from')}
        {field('Until', 'until')}
      </Row>
    </LocalizationProvider>
  )
}
