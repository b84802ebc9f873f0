-- What a part costs, where a line of the stock says it.
alter table stock_line add column price double precision check (price >= 0);

-- What minutes, parts and orders cost this shop; what is not here is as usual.
create table shop_cost (
    name   text primary key check (name ~ '^[a-z_]+(\.[a-z_]+)?$'),
    amount double precision not null check (amount >= 0)
);
