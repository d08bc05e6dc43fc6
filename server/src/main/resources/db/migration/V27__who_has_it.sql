-- Who has a thing: asked by the page of a level, a tag, a course.
create index opening_target on opening (target, opens_at);
