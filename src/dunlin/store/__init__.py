"""What is remembered: projects, films, tracks and the log of every edit, words, jobs, specs."""
