-- Further recovery folders of a project, and the one its copies are being moved out of.
alter table project add column also text not null default '[]';
alter table project add column leaving text;

-- Plans of documents that do not follow their project's, as JSON by document.
alter table project add column exceptions text not null default '{}';
