UPDATE `submissions` SET `data` = json_set(`data`, '$.meta."arrival.time"', strftime('%Y-%m-%dT%H:%M:%fZ', `received_at` / 1000.0, 'unixepoch')) WHERE json_type(`data`, '$.meta') = 'object';
