-- What fails and fails is asked for by every Today, every few seconds; of people's wake-ups there are hundreds of thousands.
create index scheduled_tasks_failing on scheduled_tasks (last_failure desc) where consecutive_failures >= 15;
