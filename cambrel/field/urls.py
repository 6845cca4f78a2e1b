from django.urls import path

from cambrel.field import views

app_name = "field"
urlpatterns = [
    path("field/", views.sheets, name="sheets"),
    path("field/plan/", views.plan, name="plan"),
    path("field/keep/", views.keep, name="keep"),
    path("field/card/<int:pk>/", views.card, name="card"),
    path("field/worker.js", views.worker, name="worker"),
    path("field/<int:pk>/", views.sheet, name="sheet"),
    path("field/<int:pk>/take/", views.take, name="take"),
    path("field/<int:pk>/forget/", views.forget, name="forget"),
]
