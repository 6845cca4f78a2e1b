from django.urls import path

from cambrel.choose import keeping, views

app_name = "choose"
urlpatterns = [
    path("choose/", views.choose, name="choose"),
    path("choose/helping/", views.helping, name="helping"),
    path("choose/keep/", keeping.keep, name="keep"),
    path("choose/kept/<int:pk>/", keeping.kept, name="kept"),
    path("choose/kept/<int:pk>/forget/", keeping.forget, name="forget"),
]
