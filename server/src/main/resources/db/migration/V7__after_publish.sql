-- After a publish those are looked over whom it concerns; what waits under the old name looks over those of the latest.
update scheduled_tasks set task_name = 'after-publish', task_instance = replace(task_instance, 'rulebook-', '')
  where task_name = 'everybody';
