import { expect, test } from 'vitest'

import { fontsNamed, knowAdded } from '@/picture/shelf'

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

test('families that were added are found, and those that were taken away are not', () => {
  const script = 'Style: Caption,Kvillen Board,50,&H00FFFFFF'
  expect(fontsNamed(script)).toEqual([])
  knowAdded([{ name: 'Kvillen Board', files: ['/api/fonts/files/a.ttf'] }])
  expect(fontsNamed(script)).toEqual(['/api/fonts/files/a.ttf'])
  knowAdded([])
  expect(fontsNamed(script)).toEqual([])
})
