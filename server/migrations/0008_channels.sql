-- Channels by one table: what is recorded beside has the role that says so, and the speed of a fan is written rpm everywhere.
UPDATE run_channel SET role = 'beside' WHERE role = 'held';
UPDATE run_channel SET role = key WHERE role = 'beside' AND key IN ('coolant', 'wall', 'duty', 'pump', 'fan2', 'fan3', 'voltage');
UPDATE run_channel SET unit = 'rpm' WHERE unit = '1/min';
UPDATE import_mapping SET body = replace(body, '"role":"held"', '"role":"beside"');
UPDATE instrument SET body = replace(replace(body, '"quantity":"fan speed"', '"quantity":"rotation"'), '"quantity":"sound level"', '"quantity":"level"');
