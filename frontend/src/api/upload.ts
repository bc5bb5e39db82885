/** A film sent as it is, with progress, which fetch does not tell. */
import type { ProjectView } from '@/api/client'
import { Refused, refusal } from '@/api/client'

export interface Upload {
  done: Promise<ProjectView>
  stop: () => void
}

export function uploadFilm(file: File, language: string, progress: (part: number) => void): Upload {
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
  request.open('POST', `/api/projects?name=${encodeURIComponent(file.name)}&language=${encodeURIComponent(language)}`)
  request.setRequestHeader('Content-Type', 'application/octet-stream')
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
