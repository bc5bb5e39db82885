"""Jobs: followed, called off, asked for again, and what came of them."""

from fastapi.responses import FileResponse

from dunlin.api.jobs.views import JobView
from dunlin.api.services import Here
from dunlin.api.subjects import subject_router
from dunlin.api.wire import Refusal, attachment
from dunlin.core.messages import message

__all__ = ["router"]

_MEDIA_TYPES = {
    ".mp4": "video/mp4",
    ".mkv": "video/x-matroska",
    ".webm": "video/webm",
    ".mov": "video/quicktime",
}

router = subject_router("jobs", 404)


@router.post("/jobs/{job_id}/cancel")
def cancel_job(job_id: str, here: Here) -> JobView:
    return JobView.model_validate(here.queue.cancel(job_id))


@router.post("/jobs/{job_id}/retry")
def retry_job(job_id: str, here: Here) -> JobView:
    return JobView.model_validate(here.queue.retry(job_id))


@router.get("/jobs/{job_id}/file", response_class=FileResponse)
def get_job_file(job_id: str, here: Here) -> FileResponse:
    """The film that was made, with captions in the picture or tracks inside."""
    job = here.jobs.get(job_id)
    if job.result is None or "file" not in job.result:
        raise Refusal(404, message("jobs.no-file-yet"))
    path = here.settings.results / job.result["file"]
    if not path.is_file():
        raise Refusal(404, message("jobs.file-gone"))
    project = here.projects.get(job.project_id)
    parts = [project.title, job.result.get("language"), job.result.get("version")]
    name = ".".join(part for part in parts if part) + path.suffix
    return FileResponse(
        path,
        media_type=_MEDIA_TYPES[path.suffix],
        headers=attachment(name),
    )
