-- Whoever changes how an order is handed over says which state of it they have looked at.
alter table order_handover add version integer not null default 1;
