import { expect, test } from 'vitest'

import { fontsNamed } from '@/picture/shelf'

test('fonts are those that styles and codes name, each once', () => {
  const script = [
    'Style: Caption,Noto Sans,50,&H00FFFFFF',
    'Style: Caption1,Courier Prime,50,&H00FFFFFF',
    'Dialogue: 0,0:00:00.00,0:00:01.00,Caption,,0,0,0,,{\\fnPatrick Hand}one{\\r} {\\fn@Patrick Hand\\i1}two{\\r}',
  ].join('\n')
  const named = fontsNamed(script)
  expect(named.filter((file) => file.includes('CourierPrime'))).toHaveLength(4)
  expect(named.filter((file) => file.includes('PatrickHand'))).toEqual(['/fonts/shelf/PatrickHand-Regular.ttf'])
  expect(named.some((file) => file.includes('NotoSans'))).toBe(false)
})
