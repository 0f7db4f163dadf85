import { styled, Typography } from '@mui/material'
import { isOfPage, type Laid, laid } from './laid.ts'

/** What stands over a page, a sheet, or a part of one: a Typography of h1, h2 or h3. */
export const Title = styled(Typography, { shouldForwardProp: isOfPage() })<Laid>(laid)
