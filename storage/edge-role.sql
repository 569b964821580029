-- What an edge may do, for a role of its own: run once as the owner of the tables, and again after each upgrade.
--   psql "$DATABASE_URL" -v role=domatium_edge -f storage/edge-role.sql
-- Make the role first:  CREATE ROLE domatium_edge LOGIN PASSWORD '…';
GRANT USAGE ON SCHEMA public TO :role;
-- Routes, and whose they are.
GRANT SELECT (id, name, version, frame_version, portfolio_id, is_own) ON host TO :role;
GRANT SELECT (id, zone) ON portfolio TO :role;
GRANT SELECT ON route, page_route, site_address, part, frame_place, frame_stretch, framed_page, edge_question TO :role;
-- What it serves, what it lacks, and what goes wrong there.
GRANT SELECT, INSERT, UPDATE, DELETE ON edge, edge_host, edge_lack, trouble TO :role;
GRANT SELECT, INSERT, UPDATE ON edge_answer TO :role;
-- Counts of visits.
GRANT SELECT, INSERT, UPDATE, DELETE ON visit_day, visitor_seen, visit_salt TO :role;
GRANT SELECT, INSERT ON shipped_spool TO :role;
