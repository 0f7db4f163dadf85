import { styled, type Theme } from '@mui/material'
import { SPACE, type Space, TYPE, type TypeSize, WEIGHT, type Weight } from '../theme/tokens.ts'
import { isOfPage, type Laid, laid } from './laid.ts'

/** What words are: plain, told beside the matter, done, or something that is asked, wrong, or hot. */
type Tone = 'plain' | 'quiet' | 'done' | 'ask' | 'wrong' | 'hot'

interface WordsProps extends Laid {
  readonly size?: TypeSize
  readonly weight?: Weight
  readonly tone?: Tone
  /** On one line, cut off where it has no room. */
  readonly cut?: boolean
  /** Against the other side. */
  readonly apart?: boolean
  /** px */
  readonly width?: number
  /** Over and under it. */
  readonly pad?: Space
}

const isWords = isOfPage('size', 'weight', 'tone', 'cut', 'apart', 'width', 'pad')

const words =
  (size: TypeSize | undefined, tone: Tone, weight?: Weight) =>
  ({ theme: { palette }, ...props }: WordsProps & { readonly theme: Theme }) => {
    const colours: Record<Tone, string | undefined> = {
      plain: undefined,
      quiet: palette.text.secondary,
      done: palette.primary.main,
      ask: palette.shop.ask,
      wrong: palette.error.main,
      hot: palette.shop.hot,
    }
    const type = props.size ?? size
    const thick = props.weight ?? weight
    return {
      fontSize: type && TYPE[type],
      fontWeight: thick && WEIGHT[thick],
      color: colours[props.tone ?? tone],
      ...(props.cut && { overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap', minWidth: 0 }),
      ...(props.apart && { marginLeft: 'auto' }),
      ...(props.width && { width: props.width }),
      ...(props.pad && { paddingBlock: SPACE[props.pad] }),
      ...laid(props),
    }
  }

/** Words as they are. */
export const Words = styled('div', { shouldForwardProp: isWords })<WordsProps>(words(undefined, 'plain'))
/** What is told beside the matter. */
export const Quiet = styled('div', { shouldForwardProp: isWords })<WordsProps>(words('small', 'quiet'))
/** What a thing is called. */
export const Name = styled('div', { shouldForwardProp: isWords })<WordsProps>(words('name', 'plain', 'strong'))
/** What went wrong. */
export const Wrong = styled('div', { shouldForwardProp: isWords })<WordsProps>(words('small', 'wrong'))
/** What a field is called. */
export const Label = styled('label', { shouldForwardProp: isWords })<WordsProps>(words(undefined, 'plain'))
