/** A film sent as it is, with progress, which fetch does not tell. */
import type { ProjectView } from '@/api/client'
import { named, Refused, refusal } from '@/api/client'
import { identity, newId } from '@/session/identity'

export interface Upload {
  /** The project that shows the film. */
  done: Promise<ProjectView>
  stop: () => void
}

/**
 * @param address what takes a film as its body
 * @param query what it is told beside the film's name
 */
export function uploadFilm(
  address: string,
  file: File,
  query: Record<string, string>,
  progress: (part: number) => void,
): Upload {
  const request = new XMLHttpRequest()
  const done = new Promise<ProjectView>((resolve, reject) => {
    request.upload.onprogress = (event) => progress(event.total ? event.loaded / event.total : 0)
    request.onload = () => {
      if (request.status === 201) resolve(JSON.parse(request.responseText) as ProjectView)
      else reject(refusal(body(request), request.status))
    }
    request.onerror = () => reject(new Refused('', 0))
    request.onabort = () => reject(new DOMException('stopped', 'AbortError'))
  })
  request.open('POST', `${address}?${new URLSearchParams({ name: file.name, ...query })}`)
  const headers = { ...identity, ...named(newId()).headers, 'Content-Type': 'application/octet-stream' }
  for (const [name, value] of Object.entries(headers)) request.setRequestHeader(name, value)
  request.send(file)
  return { done, stop: () => request.abort() }
}

function body(request: XMLHttpRequest): unknown {
  try {
    return JSON.parse(request.responseText)
  } catch {
    // Not JSON: the status says what there is to say.
    return undefined
  }
}
