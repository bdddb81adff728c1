"""Jobs by their keys as they are written."""

from finebatch.core.plan.keys import JobKey

key = JobKey.read
